import { problemOf } from '../../api/client.ts';
import type { usePreview } from '../../api/preview.ts';
import type { StepAsked } from '../../api/queries.ts';
import { count } from '../../components/text.ts';

/** Lines of tracks that are told; the others are counted. */
const mostLines = 24;

interface Props {
  readonly preview: ReturnType<typeof usePreview>;
  readonly asked: StepAsked | undefined;
}

/** In a line, beside the button that does it, what would come of it or why nothing can. */
export function InShort({ preview, asked }: Props) {
  if (asked && preview.isError) return null;
  return (
    <p className="line-clamp-2 w-full text-[12.5px] text-faint">
      {!asked
        ? 'Nothing is chosen to be taken.'
        : !preview.data
          ? 'Working it out …'
          : preview.data.changed
            ? preview.data.described
            : 'It would change nothing.'}
    </p>
  );
}

/** What would be taken, what would be changed to fit, and what is left. */
export function Account({ preview, asked }: Props) {
  if (!asked) return null;
  if (preview.isError) {
    const { message, expected, found, remedy } = problemOf(preview.error);
    return (
      <p role="alert" className="mt-4 border-l-3 border-rust pl-2">
        {message}: expected {expected}; found {found}. {remedy}
      </p>
    );
  }
  if (!preview.data) return null;
  const { report, changed, described } = preview.data;
  const { changes, skipped, told = [] } = report;
  const byFile = withNames(asked);
  return (
    <section aria-label="What would come of it" aria-live="polite" className="mt-5 text-[12.5px]">
      <h3 className="font-semibold">What would come of it</h3>
      <p>{changed ? described : 'It would change nothing.'}</p>
      {told.map((say) => (
        <p key={say} className="mt-1 text-ochre">
          {byFile(say)}
        </p>
      ))}
      <ul className="mt-1 grid grid-cols-1 gap-x-6 gap-y-0.5 lg:grid-cols-2">
        {changes.slice(0, mostLines).map((change, n) => (
          <li key={n}>
            {change.name}
            <span className="text-faint">
              {' '}
              {Object.entries(change.counts)
                .map(([kind, many]) => count(many, kind))
                .join(', ')}
            </span>
            {change.detail && (
              <span className="block pl-2 text-faint">{byFile(change.detail)}</span>
            )}
          </li>
        ))}
      </ul>
      {changes.length > mostLines && (
        <p className="text-faint">and {changes.length - mostLines} more</p>
      )}
      {skipped.length > 0 && (
        <ul aria-label="What is left" className="mt-1 text-faint">
          {skipped.slice(0, mostLines).map((left, n) => (
            <li key={n}>
              {left.name ? `${left.name}: ` : ''}
              {byFile(left.why)}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Of several files each is a step of its own: what is told of a step is told of its file. */
function withNames({ settings }: StepAsked): (words: string) => string {
  const sources = (settings?.sources ?? {}) as Readonly<Record<string, { called?: string }>>;
  const names = Object.values(sources).map(({ called }) => called);
  return (words) =>
    words.replace(/^step (\d+)/i, (step, n: string) => names[Number(n) - 1] ?? step);
}
