import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { stageOf, stages } from '#contracts/stages.ts';
import { usePreferences } from '../state/preferences.ts';
import { useMessages } from './messages.ts';

/**
 * What the stage that is open is for, in one line, in the head where messages stand: until something was done
 * there once. What was done is said, so that whatever says so is a use.
 */
export function StageLine() {
  const stage = stageOf(useLocation().pathname);
  const used = usePreferences((p) => p.used);
  const known = stage !== undefined && used.includes(stage);
  useEffect(() => {
    if (!stage || known) return;
    return useMessages.subscribe(({ said: [latest] }, { said: [before] }) => {
      if (latest && latest.id !== before?.id && latest.kind === 'done')
        usePreferences.getState().tookStage(stage);
    });
  }, [stage, known]);
  if (!stage || known) return null;
  return <p className="truncate text-faint">{stages[stage]}</p>;
}
