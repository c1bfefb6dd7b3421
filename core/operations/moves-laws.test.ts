import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, exampleSteps, namedSteps } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { take } from '../../tests/support/songs.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import { isSameTime, moveOf, placesOf } from '../timing/time-map.ts';
import { runStep, type StepRequest } from './run.ts';

/** Steps on single notes and tracks: they may move, add or take notes, and move no time. */
const ofNotes = ({ operation, settings }: StepRequest): boolean =>
  ((settings as { music?: string } | undefined)?.music !== 'keeps its seconds' &&
    /^(notes\.(?!scale-time)|events|tracks|velocity|controllers|bars\.fill)/.test(operation)) ||
  (settings as { what?: string } | undefined)?.what === 'notes only';

/** Notes that are struck anew behind an edge begin there and nowhere before: bars are taken without that. */
const withoutStriking = (request: StepRequest): StepRequest =>
  request.operation.startsWith('bars.')
    ? { ...request, settings: { ...(request.settings as object), edges: 'with their beginning' } }
    : request;

/** Where the notes of a track begin, in order. */
const starts = (song: Song, id: string): number[] => {
  const { events } = song.tracks.find((t) => t.id === id)!;
  const { count, on } = notesOf(events);
  return Array.from({ length: count }, (_, n) => events.atTick[on[n]!]!).sort((a, b) => a - b);
};

describe('steps say how time moved', () => {
  it.each(namedSteps(exampleSteps.filter((r) => !ofNotes(r))))(
    '%s: every note began where its new place says it was',
    (_, request) => {
      fc.assert(
        fc.property(madeSong, (song) => {
          const done = runStep(song, withoutStriking(request), exampleSources);
          if (!done.ok) return;
          const { moves, song: after } = done.value;
          for (const { id } of after.tracks) {
            if (!song.tracks.some((t) => t.id === id)) continue;
            const there = starts(song, id)
              .flatMap((tick) => placesOf(moveOf(moves, id), tick))
              .sort((a, b) => a - b);
            const now = starts(after, id);
            // Of notes of a key that would begin together one stays, which is said.
            if (JSON.stringify(done.value.report).includes('taken out, where one of the key'))
              return;
            // A click is written into a track of its own; nothing else has more notes or fewer.
            expect(now).toHaveLength(there.length);
            // Stretched places lie between ticks.
            now.forEach((tick, n) => expect(Math.abs(tick - there[n]!)).toBeLessThanOrEqual(0.501));
          }
          if (moves)
            expect(
              Object.values(moves.tracks ?? {})
                .concat([moves.song])
                .every(isSameTime),
            ).toBe(false);
        }),
        { seed: 64, numRuns: scaleRuns(60) },
      );
    },
  );

  it.each(namedSteps(exampleSteps.filter(ofNotes)))('%s moves no time', (_, request) => {
    for (const song of fc.sample(madeSong, { seed: 65, numRuns: 10 })) {
      const done = runStep(song, request, exampleSources);
      if (done.ok) expect(done.value.moves).toBeUndefined();
    }
  });

  it('a recipe says how its steps moved time together', () => {
    const [song] = fc.sample(madeSong, { seed: 66, numRuns: 1 });
    const steps = [
      { operation: 'timing.lead-in', settings: { bars: 1 } },
      { operation: 'timing.resolution', settings: { ppq: 192 } },
    ];
    const done = runStep(song!, { operation: 'recipe.run', settings: { name: 'Both', steps } });
    if (!done.ok) throw new Error(done.problem.code);
    const bar = take(song!, 'timing.lead-in', { bars: 1 }).song;
    const first = starts(song!, 't2')[0]!;
    // A bar later, in ticks half as long.
    expect(placesOf(moveOf(done.value.moves, 't2'), first)).toEqual([starts(bar, 't2')[0]! * 2]);
  });

  it('a lead-in that is marked too says so as well', () => {
    const [song] = fc.sample(madeSong, { seed: 67, numRuns: 1 });
    const done = runStep(song!, {
      operation: 'timing.lead-in',
      settings: { bars: 2, mark: 'as a section' },
    });
    if (!done.ok) throw new Error(done.problem.code);
    expect(placesOf(moveOf(done.value.moves, 't2'), starts(song!, 't2')[0]!)).toEqual([
      starts(done.value.song, 't2')[0],
    ]);
  });
});
