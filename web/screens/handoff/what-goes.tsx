import { count } from '../../components/text.ts';
import { Radios } from '../../fields/radios.tsx';
import { useScope } from '../../state/scope.ts';
import type { Handing } from '../../state/handing-off.ts';
import type { Setting } from './handing.ts';
import { NumberBox } from '../../fields/number-box.tsx';
import { Asked, Part } from './part.tsx';

/** Which bars of which tracks leave, and how often. */
export function WhatGoes({ handing, change }: Setting) {
  const bars = useScope((s) => s.bars);
  const selected = useScope((s) => s.tracks);
  const ofBars = bars ? handing.ofBars : 'all';
  const ofTracks = selected.size > 0 ? handing.ofTracks : 'all';
  const span =
    bars && (bars.from === bars.to ? `bar ${bars.from}` : `bars ${bars.from} to ${bars.to}`);
  const says = [
    ofBars === 'scope' ? span : 'the whole song',
    ofTracks === 'selected' && count(selected.size, 'track'),
    handing.repeat > 1 && `${handing.repeat} times`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <Part
      name="What goes"
      says={says}
      changed={ofBars !== 'all' || ofTracks !== 'all' || handing.repeat > 1}
    >
      <Asked says="Bars">
        <Radios
          label="Bars"
          value={ofBars}
          options={[
            { value: 'all', says: 'The whole song' },
            ...(bars ? [{ value: 'scope' as const, says: `The scope: ${span}` }] : []),
          ]}
          set={(to) => change({ ofBars: to })}
        />
        {!bars && (
          <p className="text-[12.5px] text-faint">
            Drag bars on the strip below to send just those.
          </p>
        )}
      </Asked>
      <WhichTracks
        selected={selected.size}
        value={ofTracks}
        set={(to) => change({ ofTracks: to })}
      />
      <Asked says="How often">
        <NumberBox
          label="How often the bars follow each other"
          value={handing.repeat}
          set={(n) => change({ repeat: n ?? 1 })}
          min={1}
          max={1000}
          unit={handing.repeat === 1 ? 'time' : 'times, one behind the other'}
        />
      </Asked>
    </Part>
  );
}

interface WhichTracksProps {
  readonly selected: number;
  readonly value: Handing['ofTracks'];
  readonly set: (value: Handing['ofTracks']) => void;
}

const WhichTracks = ({ selected, value, set }: WhichTracksProps) => (
  <Asked says="Tracks">
    <Radios
      label="Tracks"
      value={value}
      options={[
        { value: 'all', says: 'All' },
        ...(selected > 0
          ? [{ value: 'selected' as const, says: `The ${count(selected, 'selected track')}` }]
          : []),
      ]}
      set={set}
    />
    {selected === 0 && (
      <p className="text-[12.5px] text-faint">Select tracks on the sheet to send just those.</p>
    )}
  </Asked>
);
