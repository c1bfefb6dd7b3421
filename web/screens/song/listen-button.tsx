import { Pause, Play } from 'lucide-react';
import { useEffect, useEffectEvent } from 'react';
import { toast } from 'sonner';
import type { SongView } from '#contracts/songs.ts';
import { barTick } from '#core/timing/meter-map.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { duration } from '../../components/text.ts';
import { followSteps, hush, listen } from '../../sound/listen.ts';
import { usePlaying } from '../../state/playing.ts';
import { useHearing } from '../../state/hearing.ts';
import { useScope } from '../../state/scope.ts';
import { isTyping } from '../../components/is-typing.ts';
import { HearingButton } from './hearing-button.tsx';
import { useWays } from './use-ways.ts';

/** Says what it did: where no bars are chosen nothing is seen of it. */
function toggleLoop(): void {
  const loops = !useHearing.getState().loops;
  useHearing.setState({ loops });
  toast(loops ? 'The chosen bars are heard again and again' : 'Heard through to the end', {
    id: 'loop',
    description:
      loops && !useScope.getState().bars
        ? 'No bars are chosen yet: drag over the strip.'
        : undefined,
  });
}

/** Whether the space bar does something where the focus is: presses, selects, opens. */
const takesSpace = (target: EventTarget | null): boolean =>
  target instanceof Element && target.closest('button, a, tr, summary, [role]') !== null;

/** Plays the song from the bars of the scope, or from where it was last, and pauses it; P does the same, and the space bar where it does nothing else. */
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
      useHearing.getState().countIn,
    );
  };
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || isTyping(e.target)) return;
    const key = e.key.toLowerCase();
    if (key === 'l') toggleLoop();
    else if (key === 'p' || (key === ' ' && !takesSpace(e.target))) press();
    else return;
    e.preventDefault();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
  useWays(song, maps);
  useEffect(() => void followSteps(song, maps), [song, maps]);
  // Another song, or the list of songs, is another room.
  useEffect(() => hush, [song.id]);
  return (
    <>
      <Heard song={song} />
      <HearingButton />
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
