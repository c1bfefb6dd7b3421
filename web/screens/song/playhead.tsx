import type { SongView } from '#contracts/songs.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import type { Maps } from '#core/song/maps.ts';
import type { StripScale } from '../../drawing/bars.ts';
import { usePlaying } from '../../state/playing.ts';

/** Where it plays on the strip. */
export function Playhead({ song, maps, scale }: { song: SongView; maps: Maps; scale: StripScale }) {
  const seconds = usePlaying((s) =>
    s.song === song.id && (s.state !== 'silent' || s.seconds > 0) ? s.seconds : undefined,
  );
  if (seconds === undefined) return null;
  return (
    <div
      data-testid="playhead"
      className="pointer-events-none absolute inset-y-0 w-[2px] bg-ink"
      style={{ left: `${scale.at(secondsToTicks(maps.tempo, seconds)) * 100}%` }}
    />
  );
}
