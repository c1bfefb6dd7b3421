import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { positionAt, positionText } from '#core/timing/meter-map.ts';
import { addressAt } from '#core/timing/start-timecode.ts';
import { secondsToTicks } from '#core/timing/tempo-map.ts';
import { duration } from '../../components/text.ts';
import { placesAs, useHearing, type PlaceAs } from '../../state/hearing.ts';
import { usePlaying } from '../../state/playing.ts';

const says: Readonly<Record<PlaceAs, string>> = {
  bars: 'bars',
  time: 'minutes and seconds',
  timecode: 'timecode',
};

/** Of songs that do not say where they begin. */
const usual = { rate: '25', frames: 0, atTick: 0 } as const;

/**
 * Where it plays: in bars, in time or in timecode; a press goes from one to the next. While sounds are
 * loaded, how far that is.
 */
export function HeardPlace({ song, maps }: { song: SongView; maps: Maps }) {
  const loaded = usePlaying((s) => (s.song === song.id ? s.loaded : undefined));
  const as = useHearing((s) => s.placeAs);
  const seconds = usePlaying((s) =>
    s.song === song.id && (s.state !== 'silent' || s.seconds > 0)
      ? as === 'time'
        ? Math.floor(s.seconds)
        : s.seconds
      : undefined,
  );
  if (loaded !== undefined)
    return (
      <span className="num text-[12.5px] text-faint" role="status">
        Sounds {Math.round(loaded * 100)} %
      </span>
    );
  if (seconds === undefined) return null;
  const next = placesAs[(placesAs.indexOf(as) + 1) % placesAs.length]!;
  return (
    <button
      type="button"
      className="num min-w-[58px] rounded px-1 text-right text-[12.5px] text-faint hover:text-ink"
      title={`In ${says[as]}; press for ${says[next]}`}
      data-testid="heard"
      onClick={() => useHearing.setState({ placeAs: next })}
    >
      {placeText(song, maps, seconds, as)}
    </button>
  );
}

function placeText({ timing }: SongView, maps: Maps, seconds: number, as: PlaceAs): string {
  if (as === 'time') return duration(seconds);
  const tick = secondsToTicks(maps.tempo, seconds);
  if (as === 'bars') return positionText(positionAt(maps.meters, tick));
  return addressAt(timing.timecode ?? usual, maps.tempo, tick);
}
