/**
 * Numbers from 0 to 1 that look random and are the same for the same seed: xorshift32 (Marsaglia 2003), the
 * seed spread by a multiplication first.
 */
export function chanceFrom(seed: number): () => number {
  let state = Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state >>>= 0;
    state ^= state >>> 17;
    state ^= state << 5;
    state >>>= 0;
    return state / 2 ** 32;
  };
}

/** A bell from −1 to 1: the mean of three even numbers, centred. */
export const bell = (chance: () => number): number =>
  ((chance() + chance() + chance()) / 3) * 2 - 1;
