import type { MouseEvent } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep } from '../../../api/queries.ts';
import { Button } from '../../../components/button.tsx';
import { usePreparedStep } from '../../../state/step.ts';
import { askedOf, type Settling } from './settling.ts';

export const small = '!px-1.5 !py-0.5 !text-[12px] !whitespace-normal text-left';

/** Prepares a step that would settle something; with Shift it is done at once. */
export function SettleButton({
  song,
  step,
  among,
  names,
  about,
}: {
  song: SongView;
  step: Settling;
  among: number;
  names?: string | undefined;
  /** Id of what says what is wrong. */
  about: string;
}) {
  const { prepare } = usePreparedStep();
  const take = useStep(song.id, song.revision);
  const { tracks, bars } = step.scope;
  const press = (e: MouseEvent): void => {
    if (e.shiftKey) {
      if (!take.isPending) take.mutate(askedOf(step));
      return;
    }
    prepare({
      operation: step.operation,
      settings: step.settings,
      ...(tracks === 'all' ? {} : { tracks }),
      bars: bars ?? 'all',
    });
  };
  return (
    <Button
      className={small}
      aria-describedby={about}
      title="Shows what it would do; with Shift it is done at once"
      onClick={press}
    >
      {step.title}
      {names ? `: ${names}` : among > 1 && tracks !== 'all' && ` (${tracks.length})`}
    </Button>
  );
}
