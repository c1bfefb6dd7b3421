import { useEffect, useMemo, useRef, useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useLoaded } from '../../tracks/track-events.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { useMarked } from '../../state/marked.ts';
import { useScope } from '../../state/scope.ts';
import { ChosenMargin } from '../../step/chosen-margin.tsx';
import { useThisSong } from '../../state/use-song.ts';
import { NotePlane } from './note-plane.tsx';

/** The tracks of a view: those selected that have notes, or all that have. */
export function partsInScope(song: SongView, selected: ReadonlySet<string>): TrackView[] {
  const parts = song.tracks.filter((t) => t.notes > 0);
  const chosen = parts.filter((t) => selected.has(t.id));
  return chosen.length > 0 ? chosen : parts;
}

/** The notes of the selected tracks, or of all, on a plane of pitch and time. */
export function NoteScreen() {
  const song = useThisSong();
  const selected = useScope((s) => s.tracks);
  // A part that was emptied by hand stays in view, so that notes can be drawn into it again.
  const tracks = useMemo(() => {
    const chosen = song.tracks.filter(
      (t) => selected.has(t.id) && !(song.mapTrack && t === song.tracks[0]),
    );
    return chosen.length > 0 ? chosen : partsInScope(song, selected);
  }, [song, selected]);
  const { loaded, error } = useLoaded(song, tracks);
  const [open, setOpen] = useState(false);
  const plane = useRef<HTMLDivElement>(null);
  const marked = useMarked(song);
  const there = loaded !== undefined;
  useEffect(() => {
    if (marked && there) plane.current?.querySelector<HTMLElement>('[role=application]')?.focus();
  }, [marked, there]);
  const close = (): void => {
    setOpen(false);
    // Back to the notes.
    plane.current?.querySelector<HTMLElement>('[role=application]')?.focus();
  };
  return (
    <main aria-label="Note view" aria-busy={loaded?.song !== song} className="beside flex min-h-0">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col" ref={plane}>
        {error ? (
          <ProblemNote problem={problemOf(error)} harm />
        ) : tracks.length === 0 ? (
          <p className="p-6 text-faint">
            This song has no notes. Select a track on the sheet to draw some into it.
          </p>
        ) : !loaded ? (
          <p className="p-6 text-faint">Fetching the notes …</p>
        ) : (
          <NotePlane {...loaded} behind={loaded.song !== song} steps={() => setOpen(true)} />
        )}
      </div>
      {open && <ChosenMargin song={loaded?.song ?? song} close={close} />}
    </main>
  );
}
