/**
 * Tempo as the file stores it: microseconds for one quarter note, 1–16777215 (three bytes, SMF 1.0).
 * @throws outside of it
 */
function microsecondsPerQuarter(value: number): number {
  if (Number.isInteger(value) && value >= 1 && value <= 0xffffff) return value;
  throw new RangeError(
    `A tempo in microseconds per quarter must be a whole number from 1 to 16777215, not ${value}`,
  );
}

/** Channel as people count it: 1–16. */
export const channelNumber = (stored: number): number => stored + 1;

/** Beats a minute of the quarter note. 500000 → 120. */
export const tempoToBpm = (tempo: number): number => 60_000_000 / tempo;

/**
 * Tempos that the format can say, in quarter notes a minute: the slowest is 16,777,215 microseconds, in as
 * few places as say it.
 */
export const slowestBpm = 3.5762788;
export const fastestBpm = 60_000_000;

/** Nearest tempo the format can say for a number of quarter notes a minute. 97 → 618557. */
export const bpmToTempo = (bpm: number): number =>
  microsecondsPerQuarter(Math.round(60_000_000 / bpm));

const pitchClasses = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'] as const;

/** Name of a key; `middleC` is the octave number the reader gives key 60. 60 → "C4". */
export function keyName(value: number, middleC = 4): string {
  return `${pitchClasses[value % 12]}${Math.floor(value / 12) - 5 + middleC}`;
}

const naturals: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** The key of a name, sharps and flats as signs or as # and b; undefined where it is none. "F#3" → 54. */
export function parseKeyName(text: string, middleC = 4): number | undefined {
  const [, letter, sign = '', octave] = /^\s*([A-G])([♯#♭b]?)(-?\d+)\s*$/i.exec(text) ?? [];
  if (letter === undefined) return undefined;
  const by = sign === '' ? 0 : /[♯#]/.test(sign) ? 1 : -1;
  const key = naturals[letter.toUpperCase()]! + by + (Number(octave) + 5 - middleC) * 12;
  return key >= 0 && key <= 127 ? key : undefined;
}
