import type { TrackView } from '#contracts/songs.ts';
import { useState } from 'react';
import { keyName } from '#core/units/units.ts';
import { usePreferences } from '../../state/preferences.ts';
import { keyTyped } from './fields.ts';
import type { Kind, Ranges } from './filter.ts';
import { Choice } from '../../fields/choice.tsx';

const box = 'num w-[46px] rounded border border-line bg-sheet px-1 py-0.5 text-right';

/** What can be narrowed further: notes by key and velocity, controllers by which. */
export function RangeFields({
  kind,
  tracks,
  ranges,
  set,
}: {
  kind: Kind;
  tracks: readonly TrackView[];
  ranges: Ranges;
  set: (ranges: Ranges) => void;
}) {
  const middleC = usePreferences((p) => p.middleC);
  if (kind === 'controllers') return <ControllerRange tracks={tracks} ranges={ranges} set={set} />;
  if (kind !== 'notes') return null;
  return (
    <>
      <KeyRange
        middleC={middleC}
        keys={ranges.keys ?? [0, 127]}
        set={(keys) => set({ ...ranges, keys })}
      />
      <Pair
        name="Velocity"
        pair={ranges.velocities ?? [1, 127]}
        bounds={[1, 127]}
        take={(velocities) => set({ ...ranges, velocities })}
      />
    </>
  );
}

/** Two keys, by their names or numbers. */
function KeyRange({
  middleC,
  keys,
  set,
}: {
  middleC: number;
  keys: readonly [number, number];
  set: (keys: [number, number]) => void;
}) {
  return (
    <span className="flex items-center gap-1">
      Key
      <KeyBox
        label="Lowest key"
        middleC={middleC}
        at={keys[0]}
        set={(key) => set([key, keys[1]])}
      />
      –
      <KeyBox
        label="Highest key"
        middleC={middleC}
        at={keys[1]}
        set={(key) => set([keys[0], key])}
      />
    </span>
  );
}

/** A key as it is typed, `F#3` or 54; what is no key changes nothing, and arrows go by one. */
function KeyBox({
  label,
  middleC,
  at,
  set,
}: {
  label: string;
  middleC: number;
  at: number;
  set: (key: number) => void;
}) {
  const [typed, type] = useState<string>();
  const keep = (text: string): void => {
    type(text);
    const key = keyTyped(text, middleC);
    if (key !== undefined) set(key);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={typed !== undefined && keyTyped(typed, middleC) === undefined}
      className={`${box} aria-invalid:border-rust`}
      value={typed ?? keyName(at, middleC)}
      onFocus={(e) => e.target.select()}
      onChange={(e) => keep(e.target.value)}
      onBlur={() => type(undefined)}
      onKeyDown={(e) => {
        const by = { ArrowUp: 1, ArrowDown: -1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        type(undefined);
        set(Math.min(127, Math.max(0, at + by)));
      }}
    />
  );
}

function ControllerRange({
  tracks,
  ranges,
  set,
}: {
  tracks: readonly TrackView[];
  ranges: Ranges;
  set: (ranges: Ranges) => void;
}) {
  const names = new Map(
    tracks.flatMap((t) => t.controllers.map((c) => [c.controller, c.name] as const)),
  );
  return (
    <Choice
      label="Controller"
      hidden
      value={ranges.controller ?? ''}
      options={[
        ['', 'every controller'],
        ...[...names]
          .sort(([a], [b]) => a - b)
          .map(([number, name]) => [number, `${number} ${name}`] as const),
      ]}
      set={(controller) => set(typeof controller === 'string' ? {} : { controller })}
    />
  );
}

/** The lowest and the highest of some values. */
function Pair({
  name,
  pair: [from, to],
  bounds: [least, most],
  take,
}: {
  name: string;
  pair: readonly [number, number];
  bounds: readonly [number, number];
  take: (pair: [number, number]) => void;
}) {
  const within = (typed: string): number => Math.min(most, Math.max(least, Number(typed)));
  const field = { type: 'number', className: box, min: least, max: most } as const;
  return (
    <span className="flex items-center gap-1">
      {name}
      <input
        {...field}
        aria-label={`Lowest ${name.toLowerCase()}`}
        value={from}
        onChange={(e) => take([within(e.target.value), to])}
      />
      –
      <input
        {...field}
        aria-label={`Highest ${name.toLowerCase()}`}
        value={to}
        onChange={(e) => take([from, within(e.target.value)])}
      />
    </span>
  );
}
