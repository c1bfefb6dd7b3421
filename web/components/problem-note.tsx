import { useQueryClient, type Query } from '@tanstack/react-query';
import type { ApiError } from '#contracts/errors.ts';
import { leadsElsewhere, wayOut } from '../api/ways-out.ts';
import type { Way } from '../messages/messages.ts';
import { Button } from './button.tsx';

const hasFailed = ({ state }: Query): boolean => state.status === 'error';

const place = ({ where }: ApiError): string =>
  [
    where.track !== undefined ? `track ${where.track}` : where.chunk && `chunk ${where.chunk}`,
    where.byte !== undefined && `byte ${where.byte.toLocaleString('en')}`,
    where.tick !== undefined && `tick ${where.tick}`,
  ]
    .filter(Boolean)
    .join(', ');

/** A problem in plain words: what, where, what was expected and found, what was done or is to be done. */
export function ProblemNote({
  problem,
  harm = false,
  title: Title = 'p',
  way: given,
}: {
  problem: ApiError;
  harm?: boolean;
  title?: 'p' | 'h1';
  /** What is offered; where nothing is given, what the page knows to do about it. */
  way?: Way;
}) {
  const at = place(problem);
  const client = useQueryClient();
  const again = wayOut(problem, () => void client.refetchQueries({ predicate: hasFailed }));
  // A page that has nothing else leads back by itself.
  const way = given ?? (Title === 'h1' && leadsElsewhere(problem) ? undefined : again);
  return (
    <div className={`border-l-3 pl-3 py-1 ${harm ? 'border-rust' : 'border-ochre-fill'}`}>
      <Title className="font-semibold">
        {problem.where.file !== undefined && (
          <span className="font-normal">{problem.where.file}: </span>
        )}
        {problem.message}
        {at && <span className="num ml-2 font-normal text-faint">{at}</span>}
      </Title>
      <p className="text-faint">
        Expected {problem.expected}; found {problem.found}.
      </p>
      <p>{problem.remedy}</p>
      {way && (
        <Button className="mt-1.5" onClick={way.onClick}>
          {way.label}
        </Button>
      )}
    </div>
  );
}

export function PageProblem({ problem }: { problem: ApiError }) {
  return (
    <main className="mx-auto max-w-xl p-10" aria-label="Problem">
      <ProblemNote problem={problem} harm title="h1" />
      <a className="mt-6 inline-block underline decoration-amber underline-offset-4" href="/">
        Back to the songs
      </a>
    </main>
  );
}
