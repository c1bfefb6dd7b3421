import { endTick, type Events } from '../events.ts';

/** Ticks among which an end that tracks do not share may stand, as a power of two: a song's length. */
const anywhere = 18;
/** So many tracks end together by more than chance. */
const leastTogether = 2;

/**
 * Where the tracks of a song end together, as they do where a program writes all of them to the end of its
 * song: a damaged track that ends there has lost no time.
 */
export class SharedEnds {
  /** By tick, how many bits speak for an end there. */
  private readonly bits = new Map<number, number>();

  constructor(others: readonly Events[]) {
    const ending = new Map<number, number>();
    // A track that only names things ends where it begins.
    const ends = others.map(endTick).filter((tick) => tick > 0);
    for (const tick of ends) ending.set(tick, (ending.get(tick) ?? 0) + 1);
    for (const [tick, many] of ending)
      if (many >= leastTogether)
        this.bits.set(tick, anywhere + Math.log2(many / (ends.length + 1 - many)));
  }

  /** What speaks for a track that ends at a tick, in bits against one that ends anywhere. */
  fit(tick: number): number {
    return this.bits.get(tick) ?? 0;
  }

  /** Times by which a track that ends at `tick` would end later to end with others, and what speaks for each. */
  after(tick: number): [time: number, bits: number][] {
    return [...this.bits]
      .filter(([end]) => end >= tick)
      .map(([end, bits]): [number, number] => [end - tick, bits]);
  }
}
