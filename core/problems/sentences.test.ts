import { describe, expect, it } from 'vitest';
import type { Problem } from './problems.ts';
import { placeText, say } from './sentences.ts';

describe('problems in words', () => {
  it('say what, what was expected and found, and what to do', () => {
    expect(
      say({ code: 'chunk-cut', where: { track: 2, byte: 1204 }, stated: 59, present: 1 }),
    ).toEqual({
      code: 'chunk-cut',
      message: 'The file ends inside a chunk',
      where: { track: 2, byte: 1204 },
      expected: '59 bytes',
      found: '1 byte',
      remedy:
        'What was there was read; ask the sender for the whole file if the ending is missing.',
    });
    expect(say({ code: 'revision-stale', where: {}, given: 3, head: 5 })).toMatchObject({
      expected: 'revision 5',
      found: 'revision 3',
    });
    expect(say({ code: 'data-byte-high', where: {}, value: 200, times: 1 }).found).toBe('200');
    expect(
      say({ code: 'file-too-large', where: {}, setting: 'SATCHEL_MAX_MB', mostBytes: 64 * 1048576 })
        .expected,
    ).toBe('at most 64 MB');
  });

  it('leave nothing undefined in a sentence, whatever is known of the place', () => {
    const bare: Problem[] = [
      { code: 'header-missing', where: {} },
      { code: 'song-unknown', where: { id: 'x' } },
      { code: 'settings-invalid', where: {}, expected: 'a', found: 'b' },
      { code: 'operation-unknown', where: { id: 'x' }, known: ['a.b'] },
      { code: 'scope-behind-end', where: {}, from: 9, bars: 2 },
      { code: 'not-midi', where: {}, looksLike: 'a text', remedy: 'Bring in another.' },
      { code: 'defect', where: {} },
      { code: 'database-away', where: {} },
    ];
    for (const problem of bare)
      expect(JSON.stringify(say(problem))).not.toMatch(/undefined|NaN|\[object/);
  });

  it('name places as people look for them', () => {
    expect(placeText({ file: 'a.mid', track: 3, byte: 1204 })).toBe('a.mid, track 3, byte 1,204');
    expect(placeText({ chunk: 'MThd' })).toBe('chunk MThd');
    expect(placeText({})).toBe('');
  });
});
