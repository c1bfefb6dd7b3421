import { z } from 'zod';
import { refused, ok, type Result } from '../problems/problems.ts';
import type { Song } from '../song/song.ts';
import { meterMap, tickOf } from '../timing/meter-map.ts';
import { timingOf } from '../song/timing-of.ts';

/** A place as people say it; forms show its parts in one row. */
export const placeSettings = {
  bar: z.int().min(1).max(1_000_000).default(1).meta({ title: 'Bar', row: 'place' }),
  beat: z.int().min(1).max(255).default(1).meta({ title: 'Beat', row: 'place' }),
  tick: z.int().min(0).max(100_000).default(0).meta({ title: 'Tick', row: 'place' }),
};

export function tickOfPlace(
  song: Song,
  place: { bar: number; beat: number; tick: number },
  field = 'settings.beat',
): Result<number> {
  const at = tickOf(meterMap(timingOf(song).meters, song.division), place);
  return at === undefined
    ? refused({
        code: 'settings-invalid',
        where: { field },
        expected: 'a beat and a tick that this bar has',
        found: `${place.bar}.${place.beat}.${place.tick}`,
      })
    : ok(at);
}
