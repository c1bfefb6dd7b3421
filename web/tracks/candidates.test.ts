import { describe, expect, it } from 'vitest';
import { answers, candidates, families } from './candidates.ts';

/** Names of what answers, the best first. */
const found = (typed: string): string[] =>
  candidates
    .map((c) => ({ c, n: answers(c, typed) }))
    .filter(({ n }) => n > 0)
    .sort((a, b) => b.n - a.n)
    .map(({ c }) => c.name);

describe('what may play a part', () => {
  it('is 128 programs of sixteen families (RP-003) and the kits', () => {
    expect(candidates.filter((c) => !c.drums)).toHaveLength(128);
    expect(new Set(candidates.map((c) => c.family))).toEqual(new Set(families));
    expect(new Set(candidates.map((c) => c.key)).size).toBe(candidates.length);
  });

  it('is found by three letters, by words, by number, by family', () => {
    expect(found('flu')[0]).toBe('Flute');
    expect(found('mut')).toEqual(
      expect.arrayContaining(['Muted Trumpet', 'Electric Guitar (muted)']),
    );
    expect(found('73')).toEqual(['Piccolo']);
    // A 0 before it tells a number from the key of a guess.
    expect(found('02')).toEqual(['Bright Acoustic Piano']);
    expect(found('alto sax')[0]).toBe('Alto Sax');
    expect(found('brass')[0]).toBe('Brass Section');
    expect(found('drum kit')).toContain('Jazz kit');
    expect(found('zzz')).toEqual([]);
  });
});
