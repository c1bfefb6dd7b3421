import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleCount, scaleRuns } from '../../../tests/support/scale.ts';
import {
  anyFile,
  anyLimits,
  byHand,
  oneByHand,
  unsaid,
  vain,
} from '../../../tests/support/forecasting.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { forecastOf, takesAll } from './forecast.ts';

const songs = [
  ['songs that are music', madeSong, 201],
  ['any valid file', anyFile, 202],
] as const;

describe('a forecast', () => {
  it.each(songs)(
    '%s: what a receiver of the tests lacks is said, and nothing else, in the very numbers',
    { timeout: 240_000 },
    (_, from, seed) => {
      fc.assert(
        fc.property(from, anyLimits, byHand, (song, takes, hand) => {
          expect(unsaid(song, takes, hand)).toEqual([]);
        }),
        { seed, numRuns: scaleRuns(700) },
      );
    },
  );

  it.each(songs)(
    '%s: what a remedy sets makes it arrive, or less of it lack',
    { timeout: 240_000 },
    (_, from, seed) => {
      const all = { tried: 0, found: [] as string[] };
      fc.assert(
        fc.property(from, anyLimits, oneByHand, (song, takes, hand) => {
          const { tried, found } = vain(song, takes, hand);
          all.tried += tried;
          all.found.push(...found);
        }),
        { seed, numRuns: scaleRuns(400) },
      );
      // Where several things are in the way at once, one remedy may not be enough: of a hundred, one.
      expect(all.tried).toBeGreaterThan(scaleCount(200));
      expect(all.found.slice(all.tried / 100)).toEqual([]);
    },
  );

  it('is empty where nothing is lost: a song that leaves as it is for who takes everything', () => {
    fc.assert(
      fc.property(fc.oneof(madeSong, anyFile), (song) => {
        const forecast = forecastOf(song, { format: 1 }, takesAll);
        if (!forecast.ok) throw new Error(forecast.problem.code);
        const own = ['parked', 'kept'];
        expect(forecast.value.filter((i) => !own.includes(i.what)).map((i) => i.says)).toEqual([]);
      }),
      { seed: 203, numRuns: scaleRuns(300) },
    );
  });
});
