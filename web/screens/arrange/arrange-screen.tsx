import { useMemo } from 'react';
import { useMaps } from '../../api/maps.ts';
import { useRepeats } from '../../api/repeats.ts';
import { orderOf } from '../../arrange/order.ts';
import { usePreparedStep } from '../../state/step.ts';
import { useThisSong } from '../../state/use-song.ts';
import { useScope } from '../../state/scope.ts';
import { StepPanel } from '../../step/step-panel.tsx';
import { BarsMenu, OfAllTracks } from './bars-menu.tsx';
import { RunningOrder } from './running-order.tsx';

const none: never[] = [];
const mostSpans = 500;
/** In songs of more notes nobody waits for what repeats. */
const mostNotes = 300_000;

/** The song's sections in the order in which they sound, and what can be done with bars. */
export function ArrangeScreen() {
  const song = useThisSong();
  const maps = useMaps(song);
  const prepared = usePreparedStep((s) => s.prepared);
  const selected = useScope((s) => s.tracks);
  const { timing } = song;
  // What repeats is looked for only where nothing says what belongs together.
  const needsNotes =
    timing.sections.length === 0 &&
    timing.markers.length < 2 &&
    song.notes > 0 &&
    song.notes <= mostNotes;
  const { data: repeats, isPending } = useRepeats(song, needsNotes);
  const { order, from } = useMemo(
    () => orderOf(song, maps, repeats ?? none),
    [song, maps, repeats],
  );
  const tracks = useMemo(
    () => song.tracks.filter((t) => selected.has(t.id)),
    [song.tracks, selected],
  );
  return (
    <main aria-label="Arrange" className="beside grid min-h-0 grid-cols-[minmax(0,1fr)_300px]">
      {order.length > mostSpans ? (
        <p className="px-4 py-3 text-faint">
          There are {order.length.toLocaleString('en')} spans, more than can be put in order by
          hand.
        </p>
      ) : (
        <RunningOrder
          key={`${song.id} ${song.revision} ${order.length}`}
          song={song}
          maps={maps}
          all={order}
          from={from}
          looking={needsNotes && isPending}
        />
      )}
      <aside
        aria-label="Margin"
        className="min-h-0 overflow-auto border-l border-line bg-sheet px-4 py-3"
      >
        {prepared ? (
          <>
            <OfAllTracks selected={tracks} />
            <StepPanel song={song} prepared={prepared} selected={tracks} />
          </>
        ) : (
          <BarsMenu song={song} selected={tracks} />
        )}
      </aside>
    </main>
  );
}
