import type { SongView, TrackView } from '#contracts/songs.ts';
import { useOperations } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { OperationLinks } from '../../step/operation-links.tsx';
import { usePreparedStep } from '../../state/step.ts';

/** What can be done with bars, by what it is for; the ids of the operations. */
const about: Readonly<Record<string, readonly string[]>> = {
  'Take out': ['bars.cut', 'bars.clear'],
  'Put in': ['bars.insert', 'bars.repeat', 'bars.copy', 'bars.fill'],
  Turn: ['bars.move', 'bars.reverse', 'bars.stretch'],
  Tracks: ['tracks.split-at', 'tracks.join'],
};

/** Settings that the scope's bars suggest. */
function suggested(id: string, bars: Bars | undefined, all: number): Record<string, unknown> {
  const { from, to } = bars ?? { from: 1, to: all };
  if (id === 'bars.insert') return { before: from };
  if (id === 'bars.copy' || id === 'bars.move') return { before: to + 1 };
  if (id === 'bars.stretch') return { bars: (to - from + 1) * 2 };
  if (id === 'bars.fill') return { from: Math.max(1, from - 1), to: Math.max(1, from - 1) };
  if (id === 'tracks.split-at') return { before: Math.max(2, from) };
  return {};
}

/** That a step is for some tracks alone, since they are selected, and the way to all. */
export function OfAllTracks({ selected }: { selected: readonly TrackView[] }) {
  const select = useScope((s) => s.select);
  if (selected.length === 0) return null;
  return (
    <p className="mb-2 flex items-center gap-2 text-[12.5px]">
      <span className="min-w-0 flex-1 truncate text-ochre">
        {selected.length === 1
          ? `${selected[0]!.name || 'One track'} alone`
          : `${count(selected.length, 'track')} alone`}
      </span>
      <Button className="!py-0.5 text-[12.5px]" onClick={() => select([])}>
        All tracks
      </Button>
    </p>
  );
}

/** The steps on bars, for the bars of the scope and the tracks that are selected. */
export function BarsMenu({ song, selected }: { song: SongView; selected: readonly TrackView[] }) {
  const operations = useOperations().data ?? [];
  const bars = useScope((s) => s.bars);
  const { prepare } = usePreparedStep();
  return (
    <section aria-label="What to do with bars">
      <h2 className="seam mb-2 pb-1 text-[14px] font-semibold">
        {bars
          ? bars.from === bars.to
            ? `Bar ${bars.from}`
            : `Bars ${bars.from} to ${bars.to}`
          : 'Bars'}
      </h2>
      <OfAllTracks selected={selected} />
      <p className="mb-2 text-[12.5px] text-faint">
        {bars
          ? 'Every bar that stays sounds as it did: tempo, meter, markers and all that is set go with it.'
          : 'Choose bars: drag on the strip below, press a section there, or press = on one in the order.'}
      </p>
      {Object.entries(about).map(([group, ids]) => (
        <OperationLinks
          key={group}
          about={group}
          operations={ids.flatMap((id) => operations.filter((o) => o.id === id))}
          begin={(o) =>
            prepare({ operation: o.id, settings: suggested(o.id, bars, song.timing.bars) })
          }
        />
      ))}
    </section>
  );
}
