import { Check } from '../../../fields/check.tsx';
import { Choice } from '../../../fields/choice.tsx';

/** How an instrument is given, beside which. */
export interface HowGiven {
  readonly shared: 'a channel of its own' | 'all on the channel' | 'left alone';
  readonly settle: boolean;
  readonly beside: boolean;
}

export const usual: HowGiven = { shared: 'a channel of its own', settle: false, beside: false };

export function How({
  how,
  set,
  hearing,
  setHearing,
}: {
  how: HowGiven;
  set: (how: HowGiven) => void;
  hearing: boolean;
  setHearing: (on: boolean) => void;
}) {
  return (
    <div className="space-y-1.5 text-[13px]">
      <Check checked={hearing} set={setHearing}>
        heard in the song while choosing
      </Check>
      <Check checked={how.beside} set={(beside) => set({ ...how, beside })}>
        as a second track beside it
      </Check>
      <Check checked={how.settle} set={(settle) => set({ ...how, settle })}>
        park what was written for the sound before
      </Check>
      <Choice
        label="Others on its channel"
        value={how.shared}
        options={[
          ['a channel of its own', 'go on as they are'],
          ['all on the channel', 'play it, too'],
          ['left alone', 'keep it from changing'],
        ]}
        set={(shared) => set({ ...how, shared })}
      />
    </div>
  );
}
