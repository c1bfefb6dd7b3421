/**
 * Frame rates of SMPTE ST 12-1 and their doubles. `drop` counts drop-frame addresses; `rate` is frames a
 * second as a fraction.
 */
export const frameRates = {
  '23.976': { count: 24, rate: [24_000, 1001], drop: 0 },
  '24': { count: 24, rate: [24, 1], drop: 0 },
  '25': { count: 25, rate: [25, 1], drop: 0 },
  '29.97': { count: 30, rate: [30_000, 1001], drop: 0 },
  '29.97 drop': { count: 30, rate: [30_000, 1001], drop: 2 },
  '30': { count: 30, rate: [30, 1], drop: 0 },
  '50': { count: 50, rate: [50, 1], drop: 0 },
  '59.94': { count: 60, rate: [60_000, 1001], drop: 0 },
  '60': { count: 60, rate: [60, 1], drop: 0 },
} as const satisfies Record<
  string,
  { readonly count: number; readonly rate: readonly [number, number]; readonly drop: number }
>;

export type FrameRate = keyof typeof frameRates;
/** From the slowest on. */
export const frameRateNames = Object.keys(frameRates).sort(
  (a, b) => parseFloat(a) - parseFloat(b),
) as [FrameRate, ...FrameRate[]];

/**
 * Address of a frame counted from 00:00:00:00, `hh:mm:ss:ff`, with `;` before the frames in drop-frame. A
 * day's frames begin again.
 */
export function timecodeText(frames: number, name: FrameRate): string {
  const { count, drop } = frameRates[name];
  const day = framesOfDay(name);
  let n = ((Math.round(frames) % day) + day) % day;
  if (drop > 0) {
    // Each minute skips its first two numbers, every tenth minute none (ST 12-1).
    const tenMinutes = count * 600 - 9 * drop;
    const minute = count * 60 - drop;
    const [tens, rest] = [Math.floor(n / tenMinutes), n % tenMinutes];
    n +=
      tens * 9 * drop +
      (rest < count * 60 ? 0 : drop * (1 + Math.floor((rest - count * 60) / minute)));
  }
  const two = (value: number): string => String(value).padStart(2, '0');
  return `${two(Math.floor(n / (count * 3600)))}:${two(Math.floor(n / (count * 60)) % 60)}:${two(Math.floor(n / count) % 60)}${drop > 0 ? ';' : ':'}${two(n % count)}`;
}

/** How many frames a day of addresses has. */
export const framesOfDay = (name: FrameRate): number =>
  frameRates[name].count * 86_400 - frameRates[name].drop * 9 * 144;

/** Frames from 00:00:00:00 to an address; undefined where it is none, such as one that drop-frame leaves out. */
export function parseTimecode(text: string, name: FrameRate): number | undefined {
  const found = /^\s*(\d{1,2})[:.](\d{1,2})[:.](\d{1,2})[:;.](\d{1,2})\s*$/.exec(text);
  if (!found) return undefined;
  const [h, m, s, f] = found.slice(1).map(Number) as [number, number, number, number];
  const { count, drop } = frameRates[name];
  if (h > 23 || m > 59 || s > 59 || f >= count) return undefined;
  if (drop > 0 && s === 0 && f < drop && m % 10 !== 0) return undefined;
  const minutes = h * 60 + m;
  return (minutes * 60 + s) * count + f - drop * (minutes - Math.floor(minutes / 10));
}

export const secondsToFrames = (seconds: number, name: FrameRate): number =>
  (seconds * frameRates[name].rate[0]) / frameRates[name].rate[1];
export const framesToSeconds = (frames: number, name: FrameRate): number =>
  (frames * frameRates[name].rate[1]) / frameRates[name].rate[0];
