import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { parsePosition, positionAt, positionText, tickOf } from '#core/timing/meter-map.ts';
import { secondsToTicks, tempoAt, ticksToSeconds } from '#core/timing/tempo-map.ts';
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
  const seconds = ticksToSeconds(maps.tempo, tick);
  const first = parseTimecode(start, rate);
  const frames = secondsToFrames(seconds, rate) + (first ?? 0);
  // A tick that stands for a frame as near as ticks can is in that frame.
  const halfTick = secondsToFrames(tempoAt(maps.tempo, tick) / maps.tempo.scale / 2, rate);
  const atSeconds = (s: number): void => setTick(Math.max(0, secondsToTicks(maps.tempo, s)));
  const ways: readonly (readonly [string, string, (text: string) => boolean])[] = [
    [
      'Bar.beat.tick',
      positionText(positionAt(maps.meters, tick)),
      (text) =>
        ((at) => at !== undefined && (setTick(at), true))(
          ((p) => p && tickOf(maps.meters, p))(parsePosition(text)),
        ),
    ],
    [
      'Seconds',
      seconds.toFixed(4),
      (text) => ((s) => Number.isFinite(s) && s >= 0 && (atSeconds(s), true))(Number(text || NaN)),
    ],
    [
      'Timecode',
      timecodeText(Math.floor(frames + Math.min(0.499, halfTick) + 1e-6), rate),
      (text) =>
        ((f) =>
          f !== undefined &&
          f >= (first ?? 0) &&
          (atSeconds(framesToSeconds(f - (first ?? 0), rate)), true))(parseTimecode(text, rate)),
    ],
    [
      'Frames',
      String(Math.floor(secondsToFrames(seconds, rate) + Math.min(0.499, halfTick) + 1e-6)),
      (text) =>
        ((n) => Number.isInteger(n) && n >= 0 && (atSeconds(framesToSeconds(n, rate)), true))(
          Number(text || NaN),
        ),
    ],
    [
      'Samples',
      String(Math.round(seconds * samples)),
      (text) =>
        ((n) => Number.isInteger(n) && n >= 0 && (atSeconds(n / samples), true))(
          Number(text || NaN),
        ),
    ],
    [
      'Ticks',
      String(tick),
      (text) => ((n) => Number.isInteger(n) && n >= 0 && (setTick(n), true))(Number(text || NaN)),
    ],
  ];
  return (
    <section
      aria-label="Converter"
      className="flex flex-wrap items-end gap-x-2 gap-y-1 border-b border-line px-4 py-1.5 text-[12.5px]"
    >
      {ways.map(([name, value, take]) => (
        <Way key={name} name={name} value={value} take={take} />
      ))}
      <div>
        <span className="block text-[11.5px] text-faint" aria-hidden>
          Frame rate
        </span>
        <Choice
          label="Frame rate"
          hidden
          className="num w-[84px]"
          value={rate}
          options={asSaid(frameRateNames)}
          set={setRate}
        />
      </div>
      <Way
        name="Timecode of bar 1"
        value={start}
        take={(text) => parseTimecode(text, rate) !== undefined && (setStart(text.trim()), true)}
      />
      <div>
        <span className="block text-[11.5px] text-faint" aria-hidden>
          Sample rate
        </span>
        <Choice
          label="Sample rate"
          hidden
          className="num w-[84px]"
          value={samples}
          options={asSaid(sampleRates, (n) => n.toLocaleString('en'))}
          set={setSamples}
        />
      </div>
    </section>
  );
}

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
