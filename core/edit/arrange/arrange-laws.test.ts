import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { busySong } from '../../../tests/support/busy-song.ts';
import { metByNotes } from '../../../tests/support/in-force-at-notes.ts';
import { keyAt } from '../../../tests/support/key-at.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { runStep, type StepRequest, type StepResult } from '../../operations/run.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { factsOf } from '../../song/track-facts.ts';
import { barTick, barsUntil, meterAt, meterMap, positionAt } from '../../timing/meter-map.ts';
import { tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { moveOf, type Piece, type TimeMap } from '../../timing/time-map.ts';

const bar = (most: number) => fc.integer({ min: 1, max: Math.max(1, most) });
const barsIn = (song: Song): number =>
  barsUntil(meterMap(timingOf(song).meters, song.division), timingOf(song).endTick);

/** A step that moves bars, on all tracks or some. */
const steps = (song: Song): fc.Arbitrary<StepRequest> => {
  const most = barsIn(song);
  const span = fc
    .tuple(bar(most), bar(most))
    .map(([a, b]) => ({ from: Math.min(a, b), to: Math.max(a, b) }));
  return fc
    .record({
      bars: span,
      before: bar(most + 1),
      times: fc.integer({ min: 1, max: 3 }),
      edges: fc.constantFrom('cut', 'cut', 'kept whole', 'with their beginning'),
      order: fc.array(span, { minLength: 1, maxLength: 5 }),
      verb: fc.constantFrom('cut', 'clear', 'insert', 'move', 'copy', 'repeat', 'reverse', 'order'),
      tracks: fc.oneof(
        { weight: 3, arbitrary: fc.constant('all' as const) },
        fc.subarray(
          song.tracks.map((t) => t.id),
          { minLength: 1 },
        ),
      ),
    })
    .map(({ bars, before, times, edges, order, verb, tracks }) => {
      const settings: Record<string, object> = {
        insert: { before, bars: times, edges },
        move: { before, edges },
        copy: { before, times, edges },
        repeat: { times, edges },
        order: { order, edges },
      };
      const ofTracks = verb === 'insert' || verb === 'order';
      return {
        operation: `bars.${verb}`,
        settings: settings[verb] ?? { edges },
        scope: ofTracks ? { tracks } : { tracks, bars },
      };
    });
};

/** The piece of old time that a new tick is in, and the old tick. */
function cameFrom(map: TimeMap, tick: number): { piece: Piece; old: number } | undefined {
  const piece = map.findLast((p) => p.to <= tick);
  const old = piece && piece.from + tick - piece.to;
  return piece && old! < (piece.until ?? Infinity) ? { piece, old: old! } : undefined;
}

const taken = (songs: fc.Arbitrary<Song>) =>
  songs.chain((song) => fc.tuple(fc.constant(song), steps(song)));
const run = (song: Song, step: StepRequest): StepResult | undefined => {
  const done = runStep(song, step);
  return done.ok && done.value.moves ? done.value : undefined;
};

/**
 * Whether several tracks play on the channel of a parked lane: what is said again there comes from the
 * first in which it is played, and so behind a note of an earlier one that begins on its very tick.
 */
const sharesParked = ({ tracks }: Song): boolean =>
  tracks.some(({ parked = [] }) =>
    parked.some((key) => {
      const bit = 1 << Number(key.split(':')[0]);
      return tracks.filter((t) => factsOf(t).channels & bit).length > 1;
    }),
  );

/** What each note meets, whether what sets tracks up is heard before the first notes of others or not. */
const bothWays = (song: Song, only: ReadonlySet<string>) =>
  [false, true].map((headsFirst) => metByNotes(song, only, headsFirst));

const runs = { seed: 191, numRuns: scaleRuns(600) };

describe('bars in another order', () => {
  it.each([
    ['songs as they arrive', madeSong],
    ['tracks that share channels and say all that counts', busySong],
  ])('%s: each note meets what it met at its place before, by a device of its own', (_, songs) => {
    fc.assert(
      fc.property(taken(songs), ([song, step]) => {
        const done = run(song, step);
        if (!done || sharesParked(song)) return;
        const { moves, song: after, report } = done;
        const scope = done.scope.tracks;
        const moved = new Set(scope === 'all' ? song.tracks.map((t) => t.id) : scope);
        // Of tracks that move alone, what they say themselves; others on their channel stay, which is told.
        const was = new Map<string, string[]>();
        for (const m of bothWays(song, moved).flat()) {
          const key = `${m.track} ${m.channel} ${m.key} ${m.velocity} ${m.atTick}`;
          was.set(key, [...(was.get(key) ?? []), m.words]);
        }
        const unknown = report.told?.some((t) => t.includes('could not be put back')) ?? false;
        const [now, other] = bothWays(after, moved);
        now!.forEach((m) => {
          const from = cameFrom(moveOf(moves, m.track), m.atTick);
          if (!from) throw new Error(`A note at ${m.atTick}, where nothing came from`);
          const key = `${m.track} ${m.channel} ${m.key} ${m.velocity} ${from.old}`;
          const met = was.get(key);
          // One that is struck anew sounded there.
          if (!met && from.old === from.piece.from && done.settings['edges'] === 'cut') return;
          if (!met) throw new Error(`No note was where ${key} came from`);
          // A note that is struck anew may fall on one of its key that begins there.
          const here = now!.flatMap((o, k) =>
            o.track === m.track && o.key === m.key && o.atTick === m.atTick
              ? [o.words, other![k]!.words]
              : [],
          );
          if (!unknown)
            expect(
              here.some((w) => met.includes(w)),
              `${key}: ${met.join(' | ')} now ${here.join(' | ')}`,
            ).toBe(true);
        });
      }),
      runs,
    );
  });

  it('tempo, meter, key and the place in the bar are at every tick what they were there', () => {
    fc.assert(
      fc.property(taken(madeSong), ([song, step]) => {
        const done = run(song, step);
        if (!done || done.scope.tracks !== 'all' || step.operation === 'bars.clear') return;
        const { moves, song: after, report } = done;
        if (report.told?.some((t) => t.startsWith('No meter can say'))) return;
        const [was, is] = [song, after].map((s) => ({
          timing: timingOf(s),
          tempo: tempoMap(timingOf(s).tempos, s.division),
          meters: meterMap(timingOf(s).meters, s.division),
        })) as [Facts, Facts];
        for (let tick = 0; tick < is.timing.endTick; tick += 24) {
          const from = cameFrom(moves!.song, tick);
          if (!from) continue;
          const { old } = from;
          expect(tempoAt(is.tempo, tick), `tempo at ${tick}`).toBe(tempoAt(was.tempo, old));
          expect(keyAt(is.timing, tick), `key at ${tick}`).toEqual(keyAt(was.timing, old));
          const place = ({ meters }: Facts, at: number) => {
            const { numerator, denominator } = meterAt(meters, at);
            const { beat, tick: within, bar: n } = positionAt(meters, at);
            const short = barTick(meters, n + 1) - barTick(meters, n);
            return { beat, within, short, meter: `${numerator}/${denominator}` };
          };
          const [then, now] = [place(was, old), place(is, tick)];
          // The song may end inside a bar that another meter cut short.
          if (positionAt(is.meters, tick).bar === barsUntil(is.meters, is.timing.endTick)) continue;
          // A bar that was cut short may have a meter of its own now.
          if (song.division.kind === 'ppq' && then.short === meterAt(was.meters, old).barTicks)
            expect(now, `place at ${tick}`).toEqual(then);
          else
            expect(
              Math.abs(now.short - then.short),
              `bar at ${tick} was at ${old}: ${JSON.stringify([then, now])}`,
            ).toBeLessThanOrEqual(1);
        }
      }),
      runs,
    );
  });
});

interface Facts {
  readonly timing: ReturnType<typeof timingOf>;
  readonly tempo: ReturnType<typeof tempoMap>;
  readonly meters: ReturnType<typeof meterMap>;
}
