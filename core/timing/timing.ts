import type { Mark } from './marks.ts';
import type { Section } from './sections.ts';
import { frameRates, parseTimecode, type FrameRate } from './timecode.ts';

/** The song's musical facts, read from the meta events of all its tracks, in tick order. */
export interface Timing {
  readonly tempos: readonly TempoPoint[];
  readonly meters: readonly Meter[];
  readonly keys: readonly KeyPoint[];
  /** Markers but those that begin and end sections. */
  readonly markers: readonly Mark[];
  readonly cuePoints: readonly Mark[];
  /** Texts but those of the chord line. */
  readonly texts: readonly Mark[];
  /** The chord line: texts that say a chord, see `chord-texts.ts`. */
  readonly chords: readonly Mark[];
  readonly sections: readonly Section[];
  /** Copyright notices, each once. */
  readonly copyright: readonly string[];
  readonly smpteOffset?: SmpteOffset;
  readonly timecode?: StatedTimecode;
  /** Latest end of track. */
  readonly endTick: number;
}

export interface TempoPoint {
  readonly atTick: number;
  /** Microseconds per quarter, exactly as the file has it. */
  readonly tempo: number;
}

export interface Meter {
  readonly atTick: number;
  readonly numerator: number;
  readonly denominator: number;
  /** Where it says another click than its beats: MIDI clocks of 24 a quarter, and notated 32nds a quarter (SMF 1.0). */
  readonly click?: { readonly clocks: number; readonly thirtySeconds: number };
}

export interface KeyPoint {
  readonly atTick: number;
  /** Sharps positive, flats negative. */
  readonly sharps: number;
  readonly minor: boolean;
}

/** The timecode at a tick: bar 1 where the SMPTE offset says it. */
export interface StatedTimecode {
  readonly atTick: number;
  readonly rate: FrameRate;
  /** Frames from 00:00:00:00; the SMPTE offset can state hundredths. */
  readonly frames: number;
}

export interface SmpteOffset {
  readonly framesPerSecond: 24 | 25 | 29 | 30;
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
  readonly hundredths: number;
}

/** The rates of the SMPTE offset's two bits (SMF 1.0): 29 stands for 30 drop-frame. */
export const offsetRates = {
  24: '24',
  25: '25',
  29: '29.97 drop',
  30: '30',
} as const satisfies Record<SmpteOffset['framesPerSecond'], FrameRate>;

/** An offset beyond what an address can say (minute 60, or drop-frame numbers that are left out) counts on plainly. */
export function timecodeOf({
  framesPerSecond,
  hours,
  minutes,
  seconds,
  frames,
  hundredths,
}: SmpteOffset): StatedTimecode {
  const rate = offsetRates[framesPerSecond];
  const whole =
    parseTimecode(`${hours}:${minutes}:${seconds}:${frames}`, rate) ??
    ((hours * 60 + minutes) * 60 + seconds) * frameRates[rate].count + frames;
  return { atTick: 0, rate, frames: whole + Math.min(99, hundredths) / 100 };
}
