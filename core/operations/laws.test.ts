import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleCount, scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, namedSteps } from '../../tests/support/examples.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { sameEvents } from '../smf/compare.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { mergeEvents } from '../smf/merge.ts';
import { encodeText } from '../smf/text.ts';
import { staysEvent, timecodeEvent } from '../smf/own-events.ts';
import { readSmf } from '../smf/read.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { withEvents, type Song } from '../song/song.ts';
import { operations } from './index.ts';
import { runStep, type StepRequest } from './run.ts';

/** What every operation keeps to, run over generated songs with the settings of its own examples. */
const ownEvent = fc.oneof(
  fc
    .tuple(
      fc.integer({ min: 0, max: 5000 }),
      fc.constantFrom(1, 6, 7),
      fc.constantFrom('A', 'A (end)', 'Ask'),
    )
    .map(([tick, type, text]) => staysEvent(tick, type, encodeText(text))),
  fc.integer({ min: 0, max: 5000 }).map((tick) => timecodeEvent(tick, '23.976', '01:00:00:00')),
);

/** Files at random, some with events of our own among the others. */
const song = fc.tuple(smfFile(), fc.array(ownEvent, { maxLength: 3 })).map(([smf, own]) => {
  const made = songsFromSmf(smf, 'made.mid')[0]!;
  const [first, ...rest] = made.tracks;
  return own.length === 0
    ? made
    : {
        ...made,
        tracks: [withEvents(first!, mergeEvents([first!.events, eventsFrom(own)])), ...rest],
      };
});
const snapshot = (s: Song): string =>
  JSON.stringify([
    s.title,
    s.encoding,
    s.division,
    s.tracks.map((t) => [t.id, t.parked, plainEvents(t.events)]),
  ]);

describe('laws of every operation', () => {
  it('ids are unique', () => {
    const ids = operations.map((o) => o.id);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it.each(namedSteps())('%s keeps the laws', (_, request) => {
    let ran = 0;
    fc.assert(
      fc.property(song, (before) => {
        const was = snapshot(before);
        const first = runStep(before, request, exampleSources);
        expect(snapshot(before)).toBe(was);
        if (!first.ok) {
          expect(first.problem.code).toMatch(
            /^(scope-unknown-track|track-unknown|no-track-left|settings-invalid|gap-too-long|tick-too-far|bars-behind-end|bars-clash)$/,
          );
          return;
        }
        ran++;
        const again = runStep(before, request, exampleSources);
        expect(again.ok && [snapshot(again.value.song), again.value.report]).toEqual([
          snapshot(first.value.song),
          first.value.report,
        ]);
        expect(first.value.report.changes.length === 0).toBe(snapshot(first.value.song) === was);
        expect(first.value.described.length).toBeGreaterThan(5);
        expect(JSON.parse(JSON.stringify(first.value.settings))).toEqual(first.value.settings);
        checkWritten(first.value.song);
      }),
      { seed: 11, numRuns: scaleRuns(150) },
    );
    expect(ran).toBeGreaterThan(scaleCount(20));
  });

  function checkWritten(after: Song): void {
    const file = writeSmf({ ...after, format: 1 });
    const back = readSmf(file);
    if (!back.ok) throw new Error(back.problem.code);
    expect(
      back.value.smf.tracks.map((t, i) => sameEvents(t.events, after.tracks[i]!.events)),
    ).toEqual(after.tracks.map(() => true));
    expect(new Set(after.tracks.map((t) => t.id)).size).toBe(after.tracks.length);
  }
});

describe('steps that cannot be taken', () => {
  const one = fc.sample(song, { seed: 3, numRuns: 1 })[0]!;
  const code = (request: StepRequest): string => {
    const result = runStep(one, request);
    return result.ok ? 'done' : result.problem.code;
  };

  it('are refused with what, where and what was expected', () => {
    expect(code({ operation: 'tracks.nonsense' })).toBe('operation-unknown');
    expect(code({ operation: 'tracks.rename', settings: { name: '' } })).toBe('settings-invalid');
    expect(code({ operation: 'tracks.rename', settings: { name: 'a\u0007b' } })).toBe(
      'settings-invalid',
    );
    expect(code({ operation: 'tracks.rename', settings: { name: 'x'.repeat(201) } })).toBe(
      'settings-invalid',
    );
    expect(code({ operation: 'tracks.rename', settings: { name: 'a', colour: 'red' } })).toBe(
      'settings-invalid',
    );
    expect(
      code({ operation: 'tracks.rename', settings: { name: 'a' }, scope: { tracks: [] } }),
    ).toBe('settings-invalid');
    expect(
      code({ operation: 'tracks.rename', settings: { name: 'a' }, scope: { tracks: ['t999'] } }),
    ).toBe('scope-unknown-track');
    expect(code({ operation: 'tracks.reorder', settings: { before: 't999' } })).toBe(
      'track-unknown',
    );
    expect(code({ operation: 'tracks.remove' })).toBe('no-track-left');
  });
});
