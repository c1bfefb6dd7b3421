import { useEffect } from 'react';
import { create } from 'zustand';
import { namesSources } from '#core/operations/sources.ts';
import type { StepAsked } from '../api/queries.ts';

/** Steps that a song could be heard with, in the place of as it is. */
export interface Offered {
  /** What offers them. */
  readonly by: string;
  readonly steps: readonly StepAsked[];
}

interface Auditioned {
  readonly offered: Offered | undefined;
  /** Whether the song is heard with them now. */
  readonly heard: boolean;
}

export const useAuditioned = create<Auditioned>(() => ({ offered: undefined, heard: false }));

/** The name under which the step that is being prepared offers itself. */
export const preparedStep = 'prepared step';

/** Whether steps can be heard before they are taken: what they take from outside the song is on the server. */
export const canBeHeard = (steps: readonly StepAsked[]): boolean =>
  steps.length > 0 && steps.every((s) => !namesSources(s.settings ?? {}));

/**
 * Offers steps to be heard as long as the caller is there and says some; the same caller may say others
 * while they are heard.
 */
export function useOfferToHear(by: string, steps: readonly StepAsked[] | undefined): void {
  const able = steps !== undefined && canBeHeard(steps);
  useEffect(() => {
    if (!able) return;
    useAuditioned.setState(({ offered, heard }) => ({
      offered: { by, steps },
      heard: heard && offered?.by === by,
    }));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the same steps are another object after each render
  }, [by, able, JSON.stringify(steps)]);
  useEffect(() => (able ? () => withdraw(by) : undefined), [by, able]);
}

function withdraw(by: string): void {
  if (useAuditioned.getState().offered?.by === by)
    useAuditioned.setState({ offered: undefined, heard: false });
}

/** Forgets what was offered by something that has gone; the step that is being prepared offers itself. */
export function forgetOffered(): void {
  if (useAuditioned.getState().offered?.by !== preparedStep)
    useAuditioned.setState({ offered: undefined, heard: false });
}

/** Hears what somebody offers, or, where that is heard already, the song as it is. */
export function switchTo(offered: Offered): void {
  const now = useAuditioned.getState();
  useAuditioned.setState({ offered, heard: !(now.heard && now.offered?.by === offered.by) });
}

/** Whether what somebody offers is heard now. */
export const useIsHeard = (by: string): boolean =>
  useAuditioned((s) => s.heard && s.offered?.by === by);
