import { keyNow } from '../keys/shown.ts';
import { Ear } from 'lucide-react';
import type { StepAsked } from '../api/queries.ts';
import { canBeHeard, switchTo, useIsHeard } from '../state/auditioned.ts';
import { ToggleButton } from './toggle-button.tsx';

/**
 * Has the song heard with steps, or as it is again; B switches between the two. Nothing where they cannot be
 * heard before they are taken.
 */
export function HearButton({
  by,
  steps,
  brief = false,
  className = '',
}: {
  /** What offers the steps. */
  readonly by: string;
  readonly steps: readonly StepAsked[];
  /** Among other words in a row: without its sign. */
  readonly brief?: boolean;
  readonly className?: string;
}) {
  const heard = useIsHeard(by);
  if (!canBeHeard(steps)) return null;
  return (
    <ToggleButton
      kind="quiet"
      pressed={heard}
      set={() => switchTo({ by, steps })}
      className={className}
      title={
        heard
          ? `Hear it as it is (${keyNow('before-after')})`
          : `Hear it as it would be (${keyNow('before-after')} switches)`
      }
      aria-keyshortcuts="b"
    >
      {!brief && <Ear size={13} aria-hidden />} {heard ? 'As it is' : 'Hear it'}
    </ToggleButton>
  );
}
