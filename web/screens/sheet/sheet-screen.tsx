import { useMemo } from 'react';
import { useThisSong } from '../../state/use-song.ts';
import { InstrumentDialog } from './instrument/instrument-dialog.tsx';
import { Margin } from './margin.tsx';
import { Sheet } from './sheet.tsx';
import { useTrackActions } from './use-track-actions.ts';

/** Home of a song: the track sheet, and the margin with what is selected. */
export function SheetScreen() {
  const song = useThisSong();
  const actions = useTrackActions(song);
  const selected = useMemo(
    () => song.tracks.filter((t) => actions.selected.has(t.id)),
    [song.tracks, actions.selected],
  );
  return (
    <div className="beside grid min-h-0 grid-cols-[minmax(0,1fr)_236px] xl:grid-cols-[minmax(0,1fr)_264px]">
      <Sheet song={song} actions={actions} />
      <Margin song={song} selected={selected} actions={actions} />
      <InstrumentDialog
        song={song}
        tracks={actions.choosing}
        close={() => actions.choose(undefined)}
      />
    </div>
  );
}
