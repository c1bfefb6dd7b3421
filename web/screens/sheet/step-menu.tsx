import { useOperations } from '../../api/queries.ts';
import { usePreparedStep } from '../../state/step.ts';

/** Operations with controls of their own elsewhere. */
const elsewhere: ReadonlySet<string> = new Set(['song.name', 'tracks.rename', 'tracks.reorder', 'tracks.remove']);
const groups = { notes: 'Notes', velocity: 'Velocity', controllers: 'Controllers', events: 'Kinds of event', tracks: 'Tracks', song: 'Song' } as const;

/** Everything that can be done by hand, to begin preparing it. */
export function StepMenu({ all }: { all: boolean }) {
  const operations = useOperations().data?.filter((o) => !o.byHand && !elsewhere.has(o.id)) ?? [];
  const { prepare } = usePreparedStep();
  return (
    <section aria-label="Clean" className="mt-4 border-t border-line pt-3">
      <h3 className="mb-1 font-semibold">{all ? 'Clean all tracks' : 'Clean these'}</h3>
      {Object.entries(groups).map(([group, name]) => {
        const here = operations.filter((o) => o.group === group);
        if (here.length === 0) return null;
        return (
          <div key={group} className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
            <span className="text-[12px] text-faint">{name}</span>
            <span className="flex flex-col items-start">
              {here.map((o) => (
                <button key={o.id} type="button" title={o.summary} className="rounded px-1 text-left underline decoration-line underline-offset-4 hover:decoration-amber" onClick={() => prepare({ operation: o.id, settings: {} })}>
                  {o.title} …
                </button>
              ))}
            </span>
          </div>
        );
      })}
    </section>
  );
}
