import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { say } from '../../../messages/messages.ts';
import { firstFinding } from '../../../state/marked.ts';

/** The key of the finding to which somebody came back. */
export const useArrivedFinding = (): string | undefined =>
  (useLocation().state as { readonly finding?: string } | null)?.finding;

/** It has the focus, once the findings are there; the first one where one was asked for and none in particular. */
export function useFocusArrived(there: boolean): void {
  const arrived = useArrivedFinding();
  const { key } = useLocation();
  useEffect(() => {
    if (!there || arrived === undefined) return;
    if (arrived !== firstFinding) {
      document.querySelector<HTMLElement>(`[data-finding="${CSS.escape(arrived)}"]`)?.focus();
      return;
    }
    // Of the first, what settles it.
    const card = document.querySelector('[data-finding]')?.closest('li');
    if (card) card.querySelector('button')?.focus();
    else say('Nothing is to be settled', { about: 'shown' });
  }, [there, arrived, key]);
}
