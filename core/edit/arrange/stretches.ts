import type { TimeMap } from '../../timing/time-map.ts';

/**
 * Old ticks `from` up to, not including, `to` (which may be infinite), and where they begin now. Nothing of
 * them stands at or behind `ends`: where ticks cannot say a bar line, bars are a tick longer or shorter
 * than they were.
 */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly at: number;
  readonly ends: number;
}

/**
 * A song's time in another order: stretches of it in the order in which they are to sound, none over the
 * other. Time between them is empty; what is in none is gone, what is in several sounds several times.
 */
export interface Arrangement {
  readonly stretches: readonly Stretch[];
  /** The tick at which everything ends; infinite where the song ends as it did. */
  readonly end: number;
}

/** The new place of an old tick in a stretch. */
export const placed = ({ from, at, ends }: Stretch, tick: number): number =>
  Math.min(at + (tick - from), Math.max(at, ends - 1));

/** The tick at which a stretch ends, or would: the bar line behind it. */
export const endOf = ({ from, to, at, ends }: Stretch): number => Math.min(at + (to - from), ends);

/** Neighbours of which one goes on where the other ends, as one: between them nothing changes. */
export function joinedStretches(stretches: readonly Stretch[]): Stretch[] {
  const joined: Stretch[] = [];
  for (const s of stretches) {
    const last = joined.at(-1);
    if (last?.to === s.from && endOf(last) === s.at && last.at - last.from === s.at - s.from)
      joined[joined.length - 1] = { ...last, to: s.to, ends: s.ends };
    else joined.push(s);
  }
  return joined;
}

/** The arrangement as how time moved. */
export const timeMapOf = ({ stretches }: Arrangement): TimeMap =>
  stretches.length === 0
    ? [{ from: 0, until: 0, to: 0, scale: 1 }]
    : stretches.map(({ from, to, at }) => ({
        from,
        until: to === Infinity ? null : to,
        to: at,
        scale: 1,
      }));

/** Whether everything stays where it is. */
export const isAsItWas = ({ stretches, end }: Arrangement): boolean =>
  end === Infinity &&
  stretches.length === 1 &&
  stretches[0]!.from === 0 &&
  stretches[0]!.at === 0 &&
  stretches[0]!.to === Infinity;
