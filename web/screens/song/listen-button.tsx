import { Pause, Play } from 'lucide-react';
import { useEffect, useEffectEvent } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { duration } from '../../components/text.ts';
import { followSteps, hush, listen } from '../../sound/listen.ts';
import { usePlaying } from '../../state/playing.ts';
import { useScope } from '../../state/scope.ts';
import { isTyping } from '../../components/is-typing.ts';

/** Plays the song from the bars of the scope, or from where it was last, and pauses it; P does the same. */
export function ListenButton({ song }: { song: SongView }) {
  const maps = useMaps(song);
  const heard = usePlaying((s) => (s.song === song.id ? s.state : 'silent'));
  const from = useScope((s) => s.bars?.from);
  const press = (): void => {
    if (heard !== 'silent') return hush();
    const { song: last, seconds } = usePlaying.getState();
    void listen(
      song,
      maps,
      from !== undefined
        ? ticksToSeconds(maps.tempo, barTick(maps.meters, from))
        : last === song.id && seconds < song.timing.seconds
          ? seconds
          : 0,
    );
  };
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.key.toLowerCase() !== 'p' || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target))
      return;
    e.preventDefault();
    press();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  useEffect(() => void followSteps(song, maps), [song, maps]);
  // Another song, or the list of songs, is another room.
  useEffect(() => hush, [song.id]);
  return (
    <>
      <Heard song={song} />
      <Button
        kind="quiet"
        onClick={press}
        aria-label={heard === 'silent' ? 'Play' : 'Pause'}
        title={`${heard === 'silent' ? 'Play' : 'Pause'} (P)`}
      >
        {heard === 'silent' ? (
          <Play size={16} aria-hidden />
        ) : (
          <Pause size={16} aria-hidden className={heard === 'loading' ? 'opacity-40' : ''} />
        )}
      </Button>
    </>
  );
}

/** Where it plays, in time. */
function Heard({ song }: { song: SongView }) {
  const seconds = usePlaying((s) =>
    s.song === song.id && (s.state !== 'silent' || s.seconds > 0)
      ? Math.floor(s.seconds * 10) / 10
      : undefined,
  );
  return seconds === undefined ? null : (
    <span className="num text-[12.5px] text-faint" data-testid="heard">
      {duration(seconds)}
    </span>
  );
}
