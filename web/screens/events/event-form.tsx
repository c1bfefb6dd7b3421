import { useState } from 'react';
import { parsePosition, tickOf, type MeterMap } from '#core/timing/meter-map.ts';
import { Button } from '../../components/button.tsx';
import type { EventField } from './fields.ts';

export interface Typed {
  readonly atTick: number;
  readonly channel: number | undefined;
  readonly fields: readonly EventField[];
}

interface Props {
  readonly meters: MeterMap;
  readonly position: string;
  /** Undefined for events of no channel. */
  readonly channel: number | undefined;
  readonly fields: readonly EventField[];
  readonly verb: string;
  /** Gives what is wrong, where something is. */
  readonly done: (typed: Typed) => string | undefined;
  readonly cancel: () => void;
}

const box = 'rounded border border-amber bg-sheet px-1 py-0 text-[12.5px]';

/** An event being typed: its place, its channel and its values by name. Enter keeps it, Escape does not. */
export function EventForm({ meters, position, channel, fields, verb, done, cancel }: Props) {
  const [place, setPlace] = useState(position);
  const [on, setOn] = useState(channel === undefined ? '' : String(channel));
  const [typed, setTyped] = useState(fields);
  const [wrong, setWrong] = useState<string>();
  const keep = (): void => {
    const at = parsePosition(place);
    const tick = at && tickOf(meters, at);
    if (tick === undefined) return setWrong(`${place || 'Nothing'} is no place: bar.beat.tick, beats and ticks that the bar has`);
    const ch = channel === undefined ? undefined : Number(on);
    if (ch !== undefined && !(Number.isInteger(ch) && ch >= 1 && ch <= 16)) return setWrong('Channel: a whole number from 1 to 16');
    setWrong(done({ atTick: tick, channel: ch, fields: typed }));
  };
  return (
    <form
      className="flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        keep();
      }}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Escape') cancel();
      }}
      onClick={(e) => e.stopPropagation()}
    >
      <label className="flex items-center gap-1">
        At
        <input autoFocus className={`${box} num w-[104px]`} value={place} onChange={(e) => setPlace(e.target.value)} onFocus={(e) => e.target.select()} />
      </label>
      {channel !== undefined && (
        <label className="flex items-center gap-1">
          Channel
          <input className={`${box} num w-[34px]`} value={on} inputMode="numeric" onChange={(e) => setOn(e.target.value)} />
        </label>
      )}
      {typed.map((f, i) => (
        <label key={f.name} className="flex items-center gap-1">
          {f.name}
          <input
            className={`${box} ${f.wide ? 'w-[260px]' : 'num w-[64px]'}`}
            value={f.value}
            type={f.min === undefined ? 'text' : 'number'}
            step={f.fine ? 'any' : 1}
            min={f.min}
            max={f.max}
            onChange={(e) => setTyped(typed.map((x, n) => (n === i ? { ...x, value: e.target.value } : x)))}
          />
        </label>
      ))}
      <Button kind="next" className="!py-0" onClick={keep}>
        {verb}
      </Button>
      <Button className="!py-0" onClick={cancel}>
        Not now
      </Button>
      <button type="submit" hidden />
      {wrong && (
        <span role="alert" className="text-rust">
          {wrong}
        </span>
      )}
    </form>
  );
}
