import { useMemo } from 'react';
import { problemOf } from '../../api/client.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { useScope } from '../../state/scope.ts';
import { useThisSong } from '../../state/use-song.ts';
import { useLoaded } from '../../tracks/track-events.ts';
import { LaneList } from './lane-list.tsx';

/** Controller lanes of the selected tracks, or one controller across all of them. */
export function LanesScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  const tracks = useMemo(
    () =>
      song.tracks.filter(
        (t) =>
          (selected.size === 0 || selected.has(t.id)) &&
          (t.controllers.length > 0 || t.counts.pitchBend > 0 || t.counts.pressure > 0),
      ),
    [song.tracks, selected],
  );
  const { loaded, error } = useLoaded(song, tracks);
  return (
    <main aria-label="Lanes" className="flex min-h-0 flex-col">
      {error ? (
        <ProblemNote problem={problemOf(error)} harm />
      ) : tracks.length === 0 ? (
        <p className="p-6 text-faint">
          {selected.size === 0
            ? 'No track of this song has controllers, bend or pressure.'
            : 'The selected tracks have no controllers, bend or pressure.'}{' '}
          They can be drawn beneath the notes in the note view.
        </p>
      ) : !loaded ? (
        <p className="p-6 text-faint">Fetching the lanes …</p>
      ) : (
        <LaneList {...loaded} />
      )}
    </main>
  );
}
