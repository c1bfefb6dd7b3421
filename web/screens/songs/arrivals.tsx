import { Link } from 'react-router';
import { wayOutForFiles } from '../../api/ways-out.ts';
import { Button } from '../../components/button.tsx';
import { useTakeFiles } from '../../components/drop-anywhere.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { useIntake, type Arrival } from '../../state/intake.ts';

/** Files on their way in, and what became of them. */
export function Arrivals() {
  const { arrivals, clear } = useIntake();
  if (arrivals.length === 0) return null;
  const done = arrivals.filter((a) => a.state === 'in' || a.state === 'refused').length;
  return (
    <section aria-label="Arriving" className="rounded-lg border border-line bg-sheet px-4 py-3">
      <div className="flex items-center gap-3">
        <h2 className="font-semibold" aria-live="polite">
          {done < arrivals.length
            ? `Bringing in ${done + 1} of ${arrivals.length}`
            : `${count(done, 'file')} done`}
        </h2>
        {done === arrivals.length && (
          <Button kind="quiet" className="ml-auto" onClick={clear}>
            Close
          </Button>
        )}
      </div>
      <ul className="mt-2 max-h-[38vh] space-y-1.5 overflow-auto">
        {arrivals.map((a) => (
          <ArrivalLine key={a.key} arrival={a} />
        ))}
      </ul>
    </section>
  );
}

const says: Record<Arrival['state'], string> = {
  waiting: 'waiting',
  sending: 'arriving',
  reading: 'being read',
  in: 'taken in',
  refused: 'not taken',
};

function ArrivalLine({ arrival }: { arrival: Arrival }) {
  const { key, file, name, state, sent, songs, problems } = arrival;
  const leave = useIntake((s) => s.leave);
  const take = useTakeFiles();
  const takeInstead = (files: readonly File[]): void => {
    leave(key);
    void take(files);
  };
  return (
    <li>
      <div className="flex items-center gap-3">
        <span className="max-w-[460px] truncate">
          {songs.length === 1 ? (
            <Link
              className="underline decoration-line underline-offset-4"
              to={`/songs/${songs[0]}/in`}
            >
              {name}
            </Link>
          ) : (
            name
          )}
        </span>
        <span
          className={
            state === 'refused' ? 'text-rust' : state === 'in' ? 'text-moss' : 'text-faint'
          }
        >
          {says[state]}
          {songs.length > 1 && ` as ${songs.length} songs`}
          {state === 'in' && problems.length > 0 && `, ${count(problems.length, 'fault')} mended`}
        </span>
        {(state === 'sending' || state === 'reading') && (
          <progress
            className="ml-auto h-1.5 w-40 accent-amber"
            aria-label={`${name} ${says[state]}`}
            {...(state === 'sending' ? { value: sent } : {})}
          />
        )}
      </div>
      {state === 'refused' &&
        problems.map((p) => (
          <ProblemNote
            key={p.code}
            problem={{ ...p, where: {} }}
            harm
            way={wayOutForFiles(p, [file], takeInstead)}
          />
        ))}
    </li>
  );
}
