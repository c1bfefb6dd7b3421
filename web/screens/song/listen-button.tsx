import { keyNow } from '../../keys/shown.ts';
import { Pause, Play } from 'lucide-react';
import { useEffect } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { followSteps, hush } from '../../sound/listen.ts';
import { usePlaying } from '../../state/playing.ts';
import { HearingButton } from './hearing-button.tsx';
import { HeardPlace } from './heard-place.tsx';
import { useBeforeAfter } from './use-before-after.ts';
import { useListenKeys } from './use-listen-keys.ts';
import { useWays } from './use-ways.ts';

/**
 * Plays the song from the bars of the scope, or from where it was last, and pauses it; P does the same, and
 * the space bar where it does nothing else.
 */
export function ListenButton({ song }: { song: SongView }) {
  const maps = useMaps(song);
  const heard = usePlaying((s) => (s.song === song.id ? s.state : 'silent'));
  const press = useListenKeys(song, maps);
  useWays(song, maps);
  const { id, revision } = song;
  useEffect(() => void followSteps(song), [id, revision]); // eslint-disable-line react-hooks/exhaustive-deps -- what is heard is the revision's
  useBeforeAfter(song, maps);
  // Another song, or the list of songs, is another room.
  useEffect(() => hush, [id]);
  return (
    <>
      <HeardPlace song={song} maps={maps} />
      <HearingButton song={song} />
      <Button
        kind="quiet"
        onClick={press}
        aria-label={heard === 'silent' ? 'Play' : 'Pause'}
        title={`${heard === 'silent' ? 'Play' : 'Pause'} (${keyNow('play')})`}
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
