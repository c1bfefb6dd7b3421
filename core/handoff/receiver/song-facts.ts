import { channelsOf, type Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { effective, tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import type { SongFacts } from './settings-for.ts';

/** What the settings for a receiver depend on. */
export function songFacts(song: Song): SongFacts {
  const { tempos, sections } = timingOf(song);
  const points = effective(tempos);
  const map = tempoMap(points, song.division);
  const at = points.map((p) => ticksToSeconds(map, p.atTick));
  return {
    division: song.division,
    format: song.format,
    sections: sections.length,
    temposApart: at.reduce(
      (least, t, i) => (i === 0 ? least : Math.min(least, t - at[i - 1]!)),
      Infinity,
    ),
    tracks: song.tracks.map((t) => ({
      id: t.id,
      channels: channelsOf(t.events),
      kit: t.instrument?.drums === true,
    })),
  };
}
