import { useEffect } from 'react';
import { useLocation } from 'react-router';

/** The key of the finding to which somebody came back. */
export const useArrivedFinding = (): string | undefined =>
  (useLocation().state as { readonly finding?: string } | null)?.finding;

/** It has the focus, once the findings are there. */
export function useFocusArrived(there: boolean): void {
  const arrived = useArrivedFinding();
  useEffect(() => {
    if (!there || arrived === undefined) return;
    document.querySelector<HTMLElement>(`[data-finding="${CSS.escape(arrived)}"]`)?.focus();
  }, [there, arrived]);
}
