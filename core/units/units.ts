/**
 * Numbers with a unit. A brand keeps ticks from being added to channels by mistake;
 * the constructors are the only way in and say value and range when they refuse.
 */
declare const unit: unique symbol;
type Branded<Name extends string> = number & { readonly [unit]: Name };

/** Absolute position in ticks from the start of the file: a whole number, 0 or more. */
export type Tick = Branded<'tick'>;
/** Tempo as the file stores it: microseconds for one quarter note, 1–16777215 (three bytes, SMF 1.0). */
export type MicrosecondsPerQuarter = Branded<'microseconds per quarter'>;
/** MIDI channel as stored: 0–15. People see {@link channelNumber}. */
export type Channel = Branded<'channel'>;
/** Key number 0–127; middle C is 60 (MIDI 1.0). */
export type Key = Branded<'key'>;
/** Bar number from 1. */
export type Bar = Branded<'bar'>;

function whole(name: string, value: number, least: number, most: number): void {
  if (Number.isInteger(value) && value >= least && value <= most) return;
  throw new RangeError(`${name} must be a whole number from ${least} to ${most}, not ${value}`);
}

export function tick(value: number): Tick {
  whole('A tick', value, 0, Number.MAX_SAFE_INTEGER);
  return value as Tick;
}

export function microsecondsPerQuarter(value: number): MicrosecondsPerQuarter {
  whole('A tempo in microseconds per quarter', value, 1, 0xffffff);
  return value as MicrosecondsPerQuarter;
}

export function channel(value: number): Channel {
  whole('A channel', value, 0, 15);
  return value as Channel;
}

export function key(value: number): Key {
  whole('A key number', value, 0, 127);
  return value as Key;
}

export function bar(value: number): Bar {
  whole('A bar', value, 1, Number.MAX_SAFE_INTEGER);
  return value as Bar;
}

/** Channel as people count it: 1–16. */
export const channelNumber = (stored: number): number => stored + 1;

/** Beats a minute of the quarter note. 500000 → 120. */
export const tempoToBpm = (tempo: number): number => 60_000_000 / tempo;

/** Tempos that the format can say, in quarter notes a minute: the slowest is 16,777,215 microseconds, in as few places as say it. */
export const slowestBpm = 3.5762788;
export const fastestBpm = 60_000_000;

/** Nearest tempo the format can say for a number of quarter notes a minute. 97 → 618557. */
export const bpmToTempo = (bpm: number): MicrosecondsPerQuarter =>
  microsecondsPerQuarter(Math.round(60_000_000 / bpm));

const pitchClasses = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'] as const;

/** Name of a key; `middleC` is the octave number the reader gives key 60. 60 → "C4". */
export function keyName(value: number, middleC = 4): string {
  return `${pitchClasses[value % 12]}${Math.floor(value / 12) - 5 + middleC}`;
}
