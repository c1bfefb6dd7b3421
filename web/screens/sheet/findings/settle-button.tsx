import { Button } from '../../../components/button.tsx';
import { usePreparedStep } from '../../../state/step.ts';
import type { Settling } from './settling.ts';

export const small = '!px-1.5 !py-0.5 !text-[12px] !whitespace-normal text-left';

/** Prepares a step that would settle something. */
export function SettleButton({
  step,
  among,
  names,
}: {
  step: Settling;
  among: number;
  names?: string | undefined;
}) {
  const { prepare } = usePreparedStep();
  const { tracks, bars } = step.scope;
  return (
    <Button
      className={small}
      onClick={() =>
        prepare({
          operation: step.operation,
          settings: step.settings,
          ...(tracks === 'all' ? {} : { tracks }),
          bars: bars ?? 'all',
        })
      }
    >
      {step.title}
      {names ? `: ${names}` : among > 1 && tracks !== 'all' && ` (${tracks.length})`}
    </Button>
  );
}
