import fc from 'fast-check';
import { expect, it } from 'vitest';
import { exampleSources, exampleSteps } from '../../tests/support/examples.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { noteFaults } from '../edit/note-faults.ts';
import type { Song } from '../song/song.ts';
import { runStep } from './run.ts';

/** Notes of no length, of a tick and of a quarter of a beat, each written once to three times, on two keys. */
const hits = fc.array(
  fc.tuple(
    fc.integer({ min: 0, max: 20 }),
    fc.constantFrom(0, 0, 0, 1, 30),
    fc.constantFrom(60, 62),
    fc.constantFrom(1, 2, 3),
  ),
  { maxLength: 12 },
);
const overlaps = ({ tracks }: Song): number =>
  tracks.reduce((sum, t) => sum + noteFaults(t.events).overlapping.length, 0);
const moving = exampleSteps.filter(({ operation }) =>
  /^(notes\.(strum|humanise|quantise|lengths|legato|pulse|nudge|repair|scale-time)|timing)/.test(
    operation,
  ),
);

it('notes of no length that are written several times overlap no more after a step than before', () => {
  fc.assert(
    fc.property(hits, fc.constantFrom(...moving), (list, step) => {
      const notes = [...list]
        .sort((a, b) => a[0] - b[0])
        .flatMap(([place, length, key, times]) =>
          Array.from({ length: times }, () => note(place * 24, length, key)).flat(),
        );
      const song = songOf([], notes);
      const done = runStep(song, step, exampleSources);
      if (done.ok) expect(overlaps(done.value.song)).toBeLessThanOrEqual(overlaps(song));
    }),
    { seed: 3411, numRuns: scaleRuns(2000) },
  );
});
