/**
 * How many notes one player can sound at once, by General MIDI program (common practice): winds and solo
 * brass one, solo strings two on two strings, guitars six strings, basses four. Ensembles, keyboards and
 * synthesisers have no bound here. Programs from 0.
 */
export function voicesOf(program: number): number | undefined {
  if (program >= 24 && program <= 31) return 6;
  if (program >= 32 && program <= 37) return 4;
  if (program >= 40 && program <= 43) return 2;
  if ((program >= 56 && program <= 60) || (program >= 64 && program <= 79)) return 1;
  return undefined;
}
