import type { BringIn } from '#core/operations/tracks/bring-in/settings.ts';
import { byItsNotes } from '#core/edit/edit-map.ts';
import { Choice } from '../fields/choice.tsx';

export type MusicWay = Pick<BringIn, 'music' | 'beyond'>;
export const usualMusic: MusicWay = { music: byItsNotes, beyond: 'moved' };

interface Props {
  readonly way: MusicWay;
  readonly set: (way: MusicWay) => void;
  /** Whether meters change, or tempos. */
  readonly meters: boolean;
  readonly tempos: boolean;
}

/** What the music that is there keeps, where its tempos or meters are about to change. */
export function MusicChoice({ way, set, meters, tempos }: Props) {
  if (!meters && !tempos) return null;
  const bars = ['keeps its bars', 'keeps its bars'] as const;
  const seconds = ['keeps its seconds', 'keeps its seconds'] as const;
  const usual = meters ? 'keeps its beats' : 'keeps its bars';
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-x-3 gap-y-1">
      <Choice
        label="Music here"
        value={way.music === byItsNotes ? usual : way.music}
        options={
          meters
            ? [
                ['keeps its beats', 'keeps its beats: bar lines move'],
                bars,
                ...(tempos ? [seconds] : []),
              ]
            : [bars, seconds]
        }
        set={(music) => set({ ...way, music })}
      />
      {meters && way.music === 'keeps its bars' && (
        <Choice
          label="Notes behind a shorter bar’s end"
          value={way.beyond}
          options={[
            ['moved', 'to the next bar line'],
            ['cut', 'taken out'],
          ]}
          set={(beyond) => set({ ...way, beyond })}
        />
      )}
    </div>
  );
}
