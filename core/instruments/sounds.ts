import { programNames } from './general-midi.ts';

/**
 * What a channel plays with: program from 0; bank select (controllers 0 and 32 as one number), null where
 * none is said.
 */
export interface Sound {
  readonly program: number;
  readonly bank: number | null;
}

/** Drum kits by their program on the drum channel, from 0 (General MIDI level 2, RP-024; from memory). */
export const kitNames: Readonly<Record<number, string>> = {
  0: 'Standard kit',
  8: 'Room kit',
  16: 'Power kit',
  24: 'Electronic kit',
  25: 'Analog kit',
  32: 'Jazz kit',
  40: 'Brush kit',
  48: 'Orchestra kit',
  56: 'Sound effects kit',
};

/** A sound as people know it. */
export const soundName = ({ program }: Sound, drums: boolean): string =>
  drums ? (kitNames[program] ?? `Kit ${program + 1}`) : programNames[program]!;
