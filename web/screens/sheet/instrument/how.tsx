import { Check } from '../../../fields/check.tsx';
import { Choice } from '../../../fields/choice.tsx';
import type { Bars } from '../../../state/scope.ts';

/** How an instrument is given, beside which. */
export interface HowGiven {
  readonly shared: 'a channel of its own' | 'all on the channel' | 'left alone';
  readonly settle: boolean;
  readonly beside: boolean;
  /** The part goes by octaves to where the instrument has its notes. */
  readonly octaves: boolean;
  /** Of a part on several channels the one that is meant. */
  readonly channel: number | null;
}

export const usual: HowGiven = {
  shared: 'a channel of its own',
  settle: false,
  beside: false,
  octaves: false,
  channel: null,
};

interface Props {
  readonly how: HowGiven;
  readonly set: (how: HowGiven) => void;
  readonly hearing: boolean;
  readonly setHearing: (on: boolean) => void;
  /** Channels of the part, where it has several. */
  readonly channels: readonly number[];
  /** The bars of the scope; undefined where all are. */
  readonly bars: Bars | undefined;
  readonly within: boolean;
  readonly setWithin: (on: boolean) => void;
}

export function How(props: Props) {
  const { how, set, hearing, setHearing, channels, bars, within, setWithin } = props;
  return (
    <div className="space-y-1.5 text-[13px]">
      <Check checked={hearing} set={setHearing}>
        heard in the song while choosing
      </Check>
      {bars && (
        <Check checked={within} set={setWithin}>
          only in bars {bars.from} to {bars.to}
        </Check>
      )}
      {channels.length > 1 && (
        <Choice
          label="It plays on several channels: meant is"
          value={how.channel ?? undefined}
          options={channels.map((c) => [c, `channel ${c}`] as const)}
          placeholder="which?"
          set={(channel) => set({ ...how, channel })}
        />
      )}
      <Check checked={how.beside} set={(beside) => set({ ...how, beside })}>
        as a second track beside it
      </Check>
      <Check checked={how.settle} set={(settle) => set({ ...how, settle })}>
        park what was written for the sound before
      </Check>
      {!(bars && within) && (
        <Check checked={how.octaves} set={(octaves) => set({ ...how, octaves })}>
          by octaves into its range
        </Check>
      )}
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
