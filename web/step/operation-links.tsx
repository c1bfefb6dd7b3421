import type { ReactNode } from 'react';
import type { OperationView } from '#contracts/steps.ts';
import { findingInHand } from '../state/finding-in-hand.ts';
import { usePreparedStep } from '../state/step.ts';

export const linkLook =
  'rounded px-1 text-left underline decoration-line underline-offset-4 hover:decoration-amber';

/** Gives the focus back to where the step that was just left was begun, if nothing else has it. */
const backTo = (id: string) => (button: HTMLButtonElement | null) => {
  if (!button || usePreparedStep.getState().left !== id) return;
  usePreparedStep.setState({ left: undefined });
  if (document.activeElement === document.body && !findingInHand()) button.focus();
};

/** Operations under a word for what they are about, to begin preparing one. */
export function OperationLinks({
  about,
  operations,
  begin,
  children,
}: {
  about: string;
  operations: readonly OperationView[];
  begin: (operation: OperationView) => void;
  /** More of the same kind. */
  children?: ReactNode;
}) {
  if (operations.length === 0 && !children) return null;
  return (
    <div className="mb-1 grid grid-cols-[74px_minmax(0,1fr)] gap-2">
      <span className="text-[12px] text-faint">{about}</span>
      <span className="flex flex-col items-start">
        {operations.map((o) => (
          <button
            key={o.id}
            type="button"
            title={o.summary}
            ref={backTo(o.id)}
            className={linkLook}
            onClick={() => begin(o)}
          >
            {o.title} …
          </button>
        ))}
        {children}
      </span>
    </div>
  );
}
