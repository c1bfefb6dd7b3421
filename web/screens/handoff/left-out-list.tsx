import type { HandoffFile } from '#contracts/handoffs.ts';
import { leftOut } from '#core/handoff/left-out.ts';
import { count } from '../../components/text.ts';

/** Sentences that are shown at first; a song divided into hundreds of files has many. */
const mostShown = 40;

/** What is left out or changed, and why. */
export function LeftOut({
  notes,
  files,
  title,
}: {
  readonly notes: readonly string[];
  readonly files: readonly Pick<HandoffFile, 'notes'>[];
  readonly title: string;
}) {
  const said = leftOut(notes, files);
  const more = said.length - mostShown;
  return (
    <section aria-label={title} className="mt-4">
      <h3 className="seam mb-1 pb-0.5 font-semibold">{title}</h3>
      {said.length === 0 && <p className="text-faint">Nothing.</p>}
      <ul className="space-y-0.5">
        {said.slice(0, mostShown).map(({ text, files: n }) => (
          <li key={text} className="break-words">
            {text}
            {files.length > 1 && n < files.length && (
              <span className="num text-faint"> ({count(n, 'file')})</span>
            )}
          </li>
        ))}
      </ul>
      {more > 0 && <p className="text-faint">and {count(more, 'sentence')} more, on the slip</p>}
    </section>
  );
}
