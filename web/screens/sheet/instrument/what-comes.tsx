import { problemOf } from '../../../api/client.ts';
import type { usePreview } from '../../../api/preview.ts';
import { Button } from '../../../components/button.tsx';

/** Lines that are told; the others are counted. */
const most = 8;

/** What would come of giving it, and the button that does. */
export function WhatComes({
  preview,
  pending,
  take,
  close,
}: {
  preview: ReturnType<typeof usePreview>;
  pending: boolean;
  take: () => void;
  close: () => void;
}) {
  const { data, error } = preview;
  return (
    <>
      <section
        aria-label="What would come of it"
        aria-live="polite"
        className="mt-3 min-h-0 flex-1 overflow-auto border-t border-line pt-2 text-[12.5px]"
      >
        {error ? (
          <p role="alert">{problemOf(error).message}</p>
        ) : !data ? (
          <p className="text-faint">Working it out …</p>
        ) : (
          <Told {...data} />
        )}
      </section>
      <div className="mt-2 flex gap-2 border-t border-line pt-2">
        <Button
          kind="next"
          disabled={pending || data?.changed !== true}
          onClick={take}
          title="Enter"
        >
          Take it
        </Button>
        <Button onClick={close} title="Esc">
          As it was
        </Button>
      </div>
    </>
  );
}

/** What the step would do, and what it would leave. */
const Told = ({
  changed,
  described,
  report,
}: NonNullable<ReturnType<typeof usePreview>['data']>) => (
  <>
    <p className="font-semibold">{changed ? described : 'Nothing would change.'}</p>
    <ul className="mt-1 space-y-1">
      {report.changes.slice(0, most).map((change, n) => (
        <li key={n}>
          {change.name}
          <span className="text-faint">: {change.detail}</span>
        </li>
      ))}
      {report.changes.length > most && (
        <li className="text-faint">and {report.changes.length - most} more</li>
      )}
      {report.skipped.slice(0, most).map((left, n) => (
        <li key={`left ${n}`} className="text-ochre">
          {left.name}: {left.why}
        </li>
      ))}
    </ul>
  </>
);
