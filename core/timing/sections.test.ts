import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { independentMap } from '../../tests/support/independent-map.ts';
import { songOf } from '../../tests/support/songs.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { runStep } from '../operations/run.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { readSmf } from '../smf/read.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { pairSections } from './sections.ts';
import { timingOf } from '../song/timing-of.ts';
import type { Mark } from './marks.ts';

const mark = (atTick: number, text: string): Mark => ({
  atTick,
  text,
  kind: 'marker',
  track: 't1',
  travels: true,
});
const spans = (marks: readonly Mark[]): string[] =>
  pairSections(marks).sections.map((s) => `${s.name} ${s.fromTick}-${s.toTick}`);

describe('sections among markers', () => {
  it('an end belongs to the nearest open marker of its name; on one tick ends come first', () => {
    expect(spans([mark(0, 'A'), mark(10, 'A (end)')])).toEqual(['A 0-10']);
    expect(spans([mark(0, 'A'), mark(5, 'A'), mark(10, 'A (end)')])).toEqual(['A 5-10']);
    expect(spans([mark(0, 'A'), mark(10, 'A'), mark(10, 'A (end)'), mark(20, 'A (end)')])).toEqual([
      'A 0-10',
      'A 10-20',
    ]);
    expect(spans([mark(0, 'A'), mark(5, 'B'), mark(10, 'A (end)'), mark(15, 'B (end)')])).toEqual([
      'A 0-10',
      'B 5-15',
    ]);
  });

  it('what has no other half is an ordinary marker', () => {
    const marks = [mark(0, 'A (end)'), mark(0, 'A'), mark(9, ' (end)'), mark(10, 'B (end)')];
    expect(spans(marks)).toEqual([]);
    expect(pairSections(marks).rest).toEqual(marks);
  });

  it('are told in time however many there are of one name', () => {
    const pair = (count: number) => {
      const many = Array.from({ length: count }, (_, i) => mark(i, i % 2 ? 'A (end)' : 'A'));
      const alike = many.map((m) => ({ ...m, text: 'A' }));
      return () => {
        expect(pairSections(many).sections).toHaveLength(count / 2);
        expect(pairSections(alike).rest).toHaveLength(count);
      };
    };
    expect(costRatio(pair(20_000), pair(80_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});

describe('sections made, moved and sent at random', () => {
  const bar = fc.integer({ min: 1, max: 12 });
  const make = fc.record({
    name: fc.constantFrom('A', 'B', 'A (end)', 'Vers é', '1'),
    bar,
    length: fc.integer({ min: 0, max: 5 }),
  });
  const begin = songOf([metaEvent(384 * 30, meta.endOfTrack)]);
  const told = (song: Song): string[] =>
    timingOf(song)
      .sections.map((s) => `${s.name} ${s.fromTick} ${s.toTick}`)
      .sort();

  it('are all there after each step that was taken, and after the way out and in', () => {
    fc.assert(
      fc.property(
        fc.array(make, { minLength: 1, maxLength: 8 }),
        fc.integer({ min: 1, max: 3 }),
        (asked, lead) => {
          let song = begin;
          for (const { name, bar: from, length } of asked) {
            const before = told(song);
            const step = runStep(song, {
              operation: 'timing.section',
              settings: { name, bar: from, lastBar: from + length },
            });
            if (!step.ok) {
              // Refused in words, never with a section lost.
              expect(step.problem.code).toBe('settings-invalid');
              continue;
            }
            song = step.value.song;
            const made = `${name} ${(from - 1) * 384} ${(from + length) * 384}`;
            expect(told(song)).toContain(made);
            // One of the same name at the same place gave way; all others stayed.
            for (const other of before)
              if (!other.startsWith(`${name} ${(from - 1) * 384} `))
                expect(told(song)).toContain(other);
          }
          const led = runStep(song, { operation: 'timing.lead-in', settings: { bars: lead } });
          if (!led.ok) throw new Error(led.problem.code);
          const moved = told(song)
            .map((s) =>
              s.replace(
                / (\d+) (\d+)$/,
                (_, a: string, b: string) => ` ${Number(a) + lead * 384} ${Number(b) + lead * 384}`,
              ),
            )
            .sort();
          expect(told(led.value.song)).toEqual(moved);
          const sent = makeHandoff(
            led.value.song,
            { received: begin, asRead: begin },
            { format: 1, runningStatus: true, chunks: true },
          );
          if (!sent.ok) throw new Error(sent.problem.code);
          expect(independentMap(sent.value.bytes).markers).toHaveLength(2 * moved.length);
          const reading = readSmf(sent.value.bytes);
          expect(reading.ok && told(songsFromSmf(reading.value.smf, 'x.mid')[0]!)).toEqual(moved);
        },
      ),
      { seed: 91, numRuns: scaleRuns(150) },
    );
  });
});
