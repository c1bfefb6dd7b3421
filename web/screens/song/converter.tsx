import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import {
  parsePosition,
  positionAt,
  positionText,
  tickOf,
  type MeterMap,
} from '#core/timing/meter-map.ts';
import { secondsToTicks, tempoAt, ticksToSeconds, type TempoMap } from '#core/timing/tempo-map.ts';
import {
  frameRateNames,
  framesToSeconds,
  parseTimecode,
  secondsToFrames,
  timecodeText,
  type FrameRate,
} from '#core/timing/timecode.ts';
import { useMaps } from '../../api/maps.ts';
import { usePlace } from '../../state/place.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';

const sampleRates = [44_100, 48_000, 88_200, 96_000, 176_400, 192_000];
const box = 'num h-[22px] rounded border border-line bg-paper px-1.5';

/**
 * One place said in every way: bars, seconds, timecode, frames from bar 1, samples and ticks. Any of them
 * can be typed; a press on the strip says where that is.
 */
export function Converter({ song }: { song: SongView }) {
  const tick = usePlace((s) => (s.song === song.id ? s.tick : 0));
  const place = usePlace((s) => s.set);
  const setTick = (at: number): void => place(song.id, at);
  const [rate, setRate] = useState<FrameRate>(song.timing.timecode?.rate ?? '25');
  const [samples, setSamples] = useState(48_000);
  const [start, setStart] = useState(song.timing.startTimecode ?? '00:00:00:00');
  const maps = useMaps(song);
  const ways = waysToSay(
    maps.tempo,
    maps.meters,
    { tick, rate, samples, first: parseTimecode(start, rate) ?? 0 },
    setTick,
  );
  return (
    <section
      aria-label="Converter"
      className="flex flex-wrap items-end gap-x-2 gap-y-1 border-b border-line px-4 py-1.5 text-[12.5px]"
    >
      {ways.map(([name, value, take]) => (
        <Way key={name} name={name} value={value} take={take} />
      ))}
      <Rate label="Frame rate" value={rate} options={asSaid(frameRateNames)} set={setRate} />
      <Way
        name="Timecode of bar 1"
        value={start}
        take={(text) => parseTimecode(text, rate) !== undefined && (setStart(text.trim()), true)}
      />
      <Rate
        label="Sample rate"
        value={samples}
        options={asSaid(sampleRates, (n) => n.toLocaleString('en'))}
        set={setSamples}
      />
    </section>
  );
}

interface RateProps<T extends string | number> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly (readonly [T, string])[];
  readonly set: (value: T) => void;
}

const Rate = <T extends string | number>({ label, ...rest }: RateProps<T>) => (
  <div>
    <span className="block text-[11.5px] text-faint" aria-hidden>
      {label}
    </span>
    <Choice label={label} hidden className="num w-[84px]" {...rest} />
  </div>
);

interface Said {
  readonly tick: number;
  readonly rate: FrameRate;
  /** A second. */
  readonly samples: number;
  /** The frame at which bar 1 begins. */
  readonly first: number;
}

/** Each way to say a place: its name, what it says of the place, and what takes one that is typed, if it is one. */
function waysToSay(
  tempo: TempoMap,
  meters: MeterMap,
  { tick, rate, samples, first }: Said,
  go: (tick: number) => void,
): readonly (readonly [string, string, (text: string) => boolean])[] {
  const seconds = ticksToSeconds(tempo, tick);
  // A tick that stands for a frame as near as ticks can is in that frame.
  const halfTick = secondsToFrames(tempoAt(tempo, tick) / tempo.scale / 2, rate);
  const frames = secondsToFrames(seconds, rate) + Math.min(0.499, halfTick) + 1e-6;
  const toTick = (at: number | undefined): boolean => {
    if (at === undefined) return false;
    go(at);
    return true;
  };
  const toSeconds = (s: number | undefined): boolean =>
    toTick(s === undefined ? undefined : Math.max(0, secondsToTicks(tempo, s)));
  return [
    [
      'Bar.beat.tick',
      positionText(positionAt(meters, tick)),
      (text) => {
        const place = parsePosition(text);
        return toTick(place && tickOf(meters, place));
      },
    ],
    ['Seconds', seconds.toFixed(4), (text) => toSeconds(from0(text))],
    [
      'Timecode',
      timecodeText(Math.floor(frames + first), rate),
      (text) => {
        const frame = parseTimecode(text, rate);
        return toSeconds(
          frame === undefined || frame < first ? undefined : framesToSeconds(frame - first, rate),
        );
      },
    ],
    [
      'Frames',
      String(Math.floor(frames)),
      (text) => {
        const frame = whole(text);
        return toSeconds(frame === undefined ? undefined : framesToSeconds(frame, rate));
      },
    ],
    [
      'Samples',
      String(Math.round(seconds * samples)),
      (text) => {
        const sample = whole(text);
        return toSeconds(sample === undefined ? undefined : sample / samples);
      },
    ],
    ['Ticks', String(tick), (text) => toTick(whole(text))],
  ];
}

/** A number from 0 on that was typed. */
const from0 = (text: string): number | undefined => {
  const number = Number(text || NaN);
  return Number.isFinite(number) && number >= 0 ? number : undefined;
};

const whole = (text: string): number | undefined => {
  const number = from0(text);
  return Number.isInteger(number) ? number : undefined;
};

/** A place in one way; what is typed and cannot be is marked and left. */
function Way({
  name,
  value,
  take,
}: {
  name: string;
  value: string;
  take: (text: string) => boolean;
}) {
  const [typed, setTyped] = useState<string>();
  const [wrong, setWrong] = useState(false);
  const keep = (): void => {
    if (typed === undefined) return;
    const good = take(typed);
    setWrong(!good);
    if (good) setTyped(undefined);
  };
  return (
    <label>
      <span className="block text-[11.5px] text-faint">{name}</span>
      <input
        className={`${box} ${name.startsWith('Timecode') ? 'w-[98px]' : name === 'Frames' || name === 'Seconds' ? 'w-[72px]' : 'w-[82px]'} ${wrong ? '!border-rust' : ''}`}
        aria-invalid={wrong}
        title={wrong ? `${typed} is no ${name.toLowerCase()} of this song` : undefined}
        value={typed ?? value}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key === 'Enter') keep();
          if (e.key === 'Escape') setTyped(undefined);
        }}
      />
    </label>
  );
}
