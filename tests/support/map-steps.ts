import fc from 'fast-check';
import { runStep } from '#core/operations/run.ts';
import { meta, metaEvent } from '#core/smf/events.ts';
import type { Song } from '#core/song/song.ts';
import { songOf } from './songs.ts';

const bar = fc.integer({ min: 1, max: 20 });
const text = fc.constantFrom('Door', 'Light, and more', '“Quoted”', 'サビ', 'a\tb', 'x;y');

const step: fc.Arbitrary<readonly [string, object]> = fc.oneof(
  fc.tuple(
    fc.constant('timing.tempo'),
    fc.record({
      bar,
      beat: fc.integer({ min: 1, max: 3 }),
      tick: fc.integer({ min: 0, max: 47 }),
      bpm: fc.double({ min: 4, max: 900, noNaN: true }),
    }),
  ),
  fc.tuple(
    fc.constant('timing.meter'),
    fc.record({
      bar,
      numerator: fc.integer({ min: 1, max: 15 }),
      denominator: fc.constantFrom('2', '4', '8', '16'),
    }),
  ),
  fc.tuple(
    fc.constant('timing.key'),
    fc.record({ bar, sharps: fc.integer({ min: -7, max: 7 }), minor: fc.boolean() }),
  ),
  fc.tuple(
    fc.constant('timing.marker'),
    fc.record({
      bar,
      tick: fc.integer({ min: 0, max: 20 }),
      text,
      kind: fc.constantFrom('marker', 'cue point'),
    }),
  ),
  fc.tuple(
    fc.constant('timing.section'),
    bar.chain((from) =>
      fc.record({
        name: fc.constantFrom('A', 'B', 'C, D'),
        bar: fc.constant(from),
        lastBar: fc.integer({ min: from, max: from + 6 }),
      }),
    ),
  ),
  fc.tuple(
    fc.constant('timing.ramp'),
    bar.chain((from) =>
      fc.record({
        bar: fc.constant(from),
        toBar: fc.integer({ min: from + 1, max: from + 8 }),
        from: fc.integer({ min: 40, max: 200 }),
        to: fc.integer({ min: 40, max: 200 }),
      }),
    ),
  ),
);

/** A song of 96 PPQ with a map that was made by steps at random; those that are refused are passed over. */
export const mappedSong: fc.Arbitrary<Song> = fc
  .array(step, { minLength: 1, maxLength: 12 })
  .map((steps) => {
    let song = songOf([metaEvent(384 * 40, meta.endOfTrack)]);
    for (const [operation, settings] of steps) {
      const taken = runStep(song, { operation, settings });
      if (taken.ok) song = taken.value.song;
    }
    return song;
  });
