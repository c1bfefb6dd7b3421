import { useMatch } from 'react-router';
import { usePreferences } from '../../state/preferences.ts';

/** Whether the strip has its converter, and what shows or hides it. */
export function useConverter(): [shown: boolean, show: (shown: boolean) => void] {
  const onTiming = useMatch('/songs/:id/timing') !== null;
  const wanted = usePreferences((s) => s.converter);
  return [wanted ?? onTiming, usePreferences((s) => s.setConverter)];
}
