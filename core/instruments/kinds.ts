/** What players and listeners take for one kind of instrument. */
export type SoundKind =
  | 'drums'
  | 'keys'
  | 'struck'
  | 'organ'
  | 'plucked'
  | 'bass'
  | 'bowed'
  | 'voice'
  | 'brass'
  | 'reed'
  | 'pipe'
  | 'synthesiser'
  | 'effect'
  | 'other';

/** Kinds by the first program of each run of General MIDI programs, from 0. */
const runs: readonly (readonly [from: number, kind: SoundKind])[] = [
  [0, 'keys'],
  [8, 'struck'],
  [16, 'organ'],
  [24, 'plucked'],
  [32, 'bass'],
  [40, 'bowed'],
  [46, 'plucked'],
  [47, 'struck'],
  [48, 'bowed'],
  [52, 'voice'],
  [55, 'effect'],
  [56, 'brass'],
  [64, 'reed'],
  [72, 'pipe'],
  [80, 'synthesiser'],
  [96, 'effect'],
  [104, 'plucked'],
  [108, 'struck'],
  [109, 'other'],
  [112, 'struck'],
  [119, 'effect'],
];

/** The kind of a program from 0. */
export const kindOf = (program: number, drums: boolean): SoundKind =>
  drums ? 'drums' : runs.findLast(([from]) => from <= program)![1];
