import { useEffect } from 'react';
import { useLocation } from 'react-router';
import { stageOf, stages, type Stage } from '#contracts/stages.ts';
import { usePreferences } from '../state/preferences.ts';
import { useMessages } from './messages.ts';

/** The stage that is open, as long as nothing was done there. */
function useUnusedStage(): Stage | undefined {
  const stage = stageOf(useLocation().pathname);
  const used = usePreferences((p) => p.used);
  return stage !== undefined && used.includes(stage) ? undefined : stage;
}

/**
 * What the stage that is open is for, in one line, in the head where messages stand: until something was done
 * there once.
 */
export function StageLine() {
  const stage = useUnusedStage();
  return stage && <p className="truncate text-faint">{stages[stage]}</p>;
}

/** Notes that a stage was used. What was done is said, so that whatever says so is a use. */
export function useStageUse(): void {
  const stage = useUnusedStage();
  useEffect(() => {
    if (!stage) return;
    return useMessages.subscribe(({ said: [latest] }, { said: [before] }) => {
      if (latest && latest.id !== before?.id && latest.kind === 'done')
        usePreferences.getState().tookStage(stage);
    });
  }, [stage]);
}
