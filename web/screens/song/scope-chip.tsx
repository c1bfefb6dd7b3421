import { X } from 'lucide-react';
import { lazy, Suspense, useState, type ComponentProps } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep } from '../../api/queries.ts';
import { Grip } from '../../components/grip.tsx';
import { NameField } from '../../components/name-field.tsx';
import { outgoing } from '../../handoff/drag-out.ts';
import { useScope, type Bars } from '../../state/scope.ts';

const ToShelf = lazy(async () => ({ default: (await import('./to-shelf.tsx')).ToShelf }));

const look = 'flex items-center gap-1 rounded border bg-sheet px-1.5 py-0.5 text-[12px]';

const Chip = (button: ComponentProps<'button'>) => (
  <button type="button" className={`${look} border-line hover:border-stitch`} {...button} />
);

/** The bars of the scope in words: taken back, or named as a section. */
export function ScopeChip({ song, bars }: { song: SongView; bars: Bars }) {
  const span = useScope((s) => s.span);
  const tracks = useScope((s) => s.tracks);
  const [shelving, setShelving] = useState(false);
  return (
    // What is pressed here is no drag on the strip.
    <div
      className="absolute bottom-1 left-2 flex gap-1"
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.stopPropagation()}
    >
      <button
        type="button"
        className={`${look} border-amber`}
        title="All bars again (Escape)"
        onClick={() => span(undefined)}
      >
        {bars.from === bars.to ? `Bar ${bars.from}` : `Bars ${bars.from} to ${bars.to}`}{' '}
        <X size={12} aria-hidden />
      </button>
      <NameSection song={song} bars={bars} />
      {shelving ? (
        <Suspense>
          <ToShelf song={song} bars={bars} done={() => setShelving(false)} />
        </Suspense>
      ) : (
        <Chip
          title="Put these bars of the selected tracks, or of all, on the shelf"
          onClick={() => setShelving(true)}
        >
          Shelf …
        </Chip>
      )}
      <Grip
        says="These bars of the selected tracks, or of all, as a file"
        className="border-line bg-sheet"
        out={() =>
          outgoing(song.id, `${song.title} bars ${bars.from}-${bars.to}`, {
            scope: { bars },
            ...(tracks.size > 0 ? { tracks: [...tracks] } : {}),
          })
        }
      />
    </div>
  );
}

/** Names the bars as a section. */
function NameSection({ song, bars }: { song: SongView; bars: Bars }) {
  const step = useStep(song.id, song.revision);
  const [naming, setNaming] = useState(false);
  const make = (name: string | undefined): void => {
    setNaming(false);
    if (name)
      step.mutate({
        operation: 'timing.section',
        settings: { name, bar: bars.from, lastBar: bars.to },
      });
  };
  return naming ? (
    <NameField
      label="Name of the section"
      initial=""
      className="w-[150px] text-[12px]"
      done={make}
    />
  ) : (
    <Chip title="Name these bars as a section" onClick={() => setNaming(true)}>
      Section …
    </Chip>
  );
}
