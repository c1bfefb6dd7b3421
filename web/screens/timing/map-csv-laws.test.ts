import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import { meta, metaEvent } from '#core/smf/events.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import type { Song } from '#core/song/song.ts';
import { timingOf } from '#core/timing/timing.ts';
import { mappedSong } from '../../../tests/support/map-steps.ts';
import { songOf, take } from '../../../tests/support/songs.ts';
import { mapsOf } from '../../api/maps.ts';
import { listCsv, readCsv } from './map-csv.ts';

const viewOf = (song: Song): SongView => ({ division: song.division, timing: summariseSong(song).timing }) as unknown as SongView;

/** The map as it is meant: one of a kind a tick, in the order of the ticks; what says again what is in force is nothing. */
function meaning(song: Song): unknown {
  const { tempos, meters, keys, markers, cuePoints, sections } = timingOf(song);
  const last = <T extends { atTick: number }>(list: readonly T[]): T[] => list.filter((x, i) => list[i + 1]?.atTick !== x.atTick);
  // Before the first meter it is 4/4 (SMF 1.0).
  const all = [{ atTick: -1, numerator: 4, denominator: 4 }, ...last(meters)];
  const changes = all.slice(1).filter((m, i) => m.numerator !== all[i]!.numerator || m.denominator !== all[i]!.denominator);
  const texts = (list: typeof markers): string[] => list.map((m) => `${m.atTick} ${m.text}`).sort();
  return { tempos: last(tempos), meters: changes, keys: last(keys), markers: texts(markers), cuePoints: texts(cuePoints), sections: sections.map((s) => `${s.fromTick} ${s.toTick} ${s.name}`).sort() };
}

it('a map travels alone as CSV into an empty song, exactly: tempos to the microsecond, sections, meters, keys and marks', () => {
  const empty = songOf([metaEvent(384 * 40, meta.endOfTrack)]);
  fc.assert(
    fc.property(mappedSong, (song) => {
      const view = viewOf(song);
      const { faults, ...settings } = readCsv(listCsv(view, mapsOf(view)), viewOf(empty));
      expect(faults).toEqual([]);
      expect(meaning(take(empty, 'timing.places', settings).song)).toEqual(meaning(song));
    }),
    { seed: 92, numRuns: 200 },
  );
});
