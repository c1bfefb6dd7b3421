import { problemOf } from '../../api/client.ts';
import type { usePreview } from '../../api/preview.ts';
import type { StepAsked } from '../../api/queries.ts';

/** Lines of tracks that are told; the others are counted. */
const mostLines = 12;

/** What would be taken, what would be changed to fit, and what is left. */
export function Account({
  preview,
  asked,
}: {
  preview: ReturnType<typeof usePreview>;
  asked: StepAsked | undefined;
}) {
  if (!asked)
    return (
      <p className="mt-3 border-t border-line pt-2 text-faint">Nothing is chosen to be taken.</p>
    );
  if (preview.isError) {
    const { message, expected, found, remedy } = problemOf(preview.error);
    return (
      <p role="alert" className="mt-3 border-l-3 border-rust pl-2">
        {message}: expected {expected}; found {found}. {remedy}
      </p>
    );
  }
  if (!preview.data) return <p className="mt-3 text-faint">Working it out …</p>;
  const { report, changed, described } = preview.data;
  const { changes, skipped, told = [] } = report;
  return (
    <section
      aria-label="What would come of it"
      aria-live="polite"
      className="mt-3 border-t border-line pt-2 text-[12.5px]"
    >
      <h3 className="font-semibold">What would come of it</h3>
      <p>{changed ? described : 'It would change nothing.'}</p>
      {told.map((say) => (
        <p key={say} className="mt-1 text-ochre">
          {say}
        </p>
      ))}
      <ul className="mt-1 space-y-0.5">
        {changes.slice(0, mostLines).map((change, n) => (
          <li key={n}>
            {change.name}
            <span className="text-faint">
              {' '}
              {Object.entries(change.counts)
                .map(
                  ([kind, many]) => `${many.toLocaleString('en')} ${kind}${many === 1 ? '' : 's'}`,
                )
                .join(', ')}
            </span>
            {change.detail && <span className="block pl-2 text-faint">{change.detail}</span>}
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
              {left.why}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
