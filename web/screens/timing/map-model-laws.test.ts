import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { tempoMap, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { timingOf } from '#core/song/timing-of.ts';
import type { Song } from '#core/song/song.ts';
import { mappedSong } from '../../../tests/support/map-steps.ts';
import { take } from '../../../tests/support/songs.ts';
import { temposOf, type Tempos } from '../../api/runs.ts';
import {
  addPoint,
  drawChange,
  handlesOf,
  moveHandle,
  removeHandle,
  type TempoEdit,
} from './map-model.ts';

const temposIn = (song: Song): Tempos => temposOf(timingOf(song).tempos, 96);
const hand = fc.record({
  which: fc.nat(1000),
  does: fc.constantFrom('move', 'move', 'move', 'remove', 'add', 'draw'),
  tick: fc.nat(20 * 384),
  to: fc.nat(20 * 384),
  bpm: fc.integer({ min: 20, max: 300 }),
});

/** Ticks that an edit may change the tempo of: up to where what it puts in is followed by another tempo. */
function reach(edit: TempoEdit): { from: number; to: number } {
  const ticks = [
    ...edit.clear.flatMap((c) => [c.from, c.to]),
    ...edit.points.map((p) => p.atTick),
    ...edit.changes.flatMap((c) => [c.fromTick, c.toTick]),
  ];
  return { from: Math.min(...ticks), to: Math.max(...ticks) };
}

it('whatever a hand does to the tempo line, it is taken, and the music before it and the tempos behind it stay', () => {
  fc.assert(
    fc.property(mappedSong, fc.array(hand, { minLength: 1, maxLength: 5 }), (begun, does) => {
      let song = begun;
      for (const { which, does: what, tick, to, bpm } of does) {
        const tempos = temposIn(song);
        const handles = handlesOf(tempos);
        const handle = handles[which % handles.length]!;
        const edit =
          what === 'move'
            ? moveHandle(tempos, handle, tick, bpm)
            : what === 'remove'
              ? removeHandle(tempos, handle)
              : what === 'add' || tick === to
                ? addPoint(tick, bpm)
                : drawChange({ tick, bpm }, { tick: to, bpm: bpm + 7 });
        const after = take(song, 'timing.tempos', edit).song;
        const { from, to: until } = reach(edit);
        const [old, now] = [song, after].map((s) => tempoMap(timingOf(s).tempos, s.division));
        for (let at = 0; at <= from; at += 97)
          expect(ticksToSeconds(now!, at)).toBeCloseTo(ticksToSeconds(old!, at), 9);
        const behind = (s: Song): unknown => timingOf(s).tempos.filter((p) => p.atTick > until);
        expect(behind(after)).toEqual(behind(song));
        expect(after.tracks[0]!.events.count).toBeGreaterThan(0);
        song = after;
      }
    }),
    { seed: 94, numRuns: scaleRuns(150) },
  );
});
