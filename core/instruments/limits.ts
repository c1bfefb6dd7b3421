import type { InstrumentDefinition } from './definition.ts';
import { rangeOf } from './ranges.ts';
import { soundName } from './sounds.ts';
import { voicesOf } from './voices.ts';

/** What an instrument can do, as far as it is known. */
export interface Limits {
  /** What it is called within a sentence. */
  readonly called: string;
  readonly drums: boolean;
  readonly playable?: readonly [lowest: number, highest: number];
  /** Notes that one player sounds at once. */
  readonly voices?: number;
  /** Whether somebody said so of this very instrument, and it is no common practice. */
  readonly defined: boolean;
}

/**
 * Keys of kits: General MIDI level 2 goes from the high Q to the open surdo (RP-024; from memory), level 1
 * from 35 to 81.
 */
const kitKeys = [27, 87] as const;

export const limitsOfSound = (program: number, drums: boolean): Limits => {
  const playable = drums ? kitKeys : rangeOf(program);
  const voices = drums ? undefined : voicesOf(program);
  return {
    called: soundName({ program, bank: null }, drums).toLowerCase(),
    drums,
    ...(playable ? { playable } : {}),
    ...(voices === undefined ? {} : { voices }),
    defined: false,
  };
};

export const limitsOfDefinition = (definition: InstrumentDefinition): Limits => ({
  called: definition.name,
  drums: definition.drums,
  ...(definition.playable
    ? { playable: [definition.playable.lowest, definition.playable.highest] as const }
    : {}),
  ...(definition.voices === null ? {} : { voices: definition.voices }),
  defined: true,
});
