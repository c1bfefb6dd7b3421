import { endTick, type Events } from '../smf/events.ts';
import { barsUntil, positionAt, type MeterMap } from '../timing/meter-map.ts';
import { ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';
import { lanesOf } from './lanes.ts';
import { notesOf } from './notes.ts';

/** How many of a track's notes or values fall where: bins in order, each with its name. */
export interface Distribution {
  readonly of: string;
  readonly bins: readonly { readonly name: string; readonly count: number }[];
}

/** A song's time, as far as a track is counted over it. */
export interface CountedOver {
  readonly meters: MeterMap;
  readonly tempo: TempoMap;
  /** Ticks of a quarter note. */
  readonly quarter: number;
}

/**
 * All distributions of a track: velocities, lengths, places beside the grid, values of controllers over the
 * bars. Those of which it has nothing are left out.
 */
export function distributionsOf(events: Events, over: CountedOver): Distribution[] {
  const all = [
    velocities(events),
    lengths(events, over.quarter),
    besideGrid(events, over),
    overBars(events, over),
  ];
  return all.filter(({ bins }) => bins.some((b) => b.count > 0));
}

const binned = (of: string, names: readonly string[], counts: ArrayLike<number>): Distribution => ({
  of,
  bins: names.map((name, n) => ({ name, count: counts[n] ?? 0 })),
});

/** Sixteen bins of eight velocities each. */
function velocities(events: Events): Distribution {
  const counts = new Uint32Array(16);
  const { count, on } = notesOf(events);
  for (let n = 0; n < count; n++) counts[events.data2[on[n]!]! >> 3]!++;
  return binned(
    'Velocities',
    Array.from(counts, (_, n) => `${Math.max(1, n * 8)}–${n * 8 + 7}`),
    counts,
  );
}

/** Note values, each twice as long as the one before. */
const values = ['1/64', '1/32', '1/16', '1/8', '1/4', '1/2', '1/1', 'longer'] as const;

/** Lengths as the nearest note value on the scale of doublings: from 1/√2 to √2 of it. Notes that hang have none. */
function lengths(events: Events, quarter: number): Distribution {
  const counts = new Uint32Array(values.length);
  const { count, on, off } = notesOf(events);
  for (let n = 0; n < count; n++) {
    if (off[n] === -1) continue;
    const quarters = (events.atTick[off[n]!]! - events.atTick[on[n]!]!) / quarter;
    const place = Math.round(Math.log2(Math.max(quarters, 1e-9) * 16));
    counts[Math.min(values.length - 1, Math.max(0, place))]!++;
  }
  return binned('Lengths', values, counts);
}

/** Farthest bins of places beside the grid, and how wide each is, in milliseconds. */
const [farthest, binWidth] = [40, 5];

/** How far notes begin from the nearest sixteenth, early to late. */
function besideGrid(events: Events, { tempo, quarter }: CountedOver): Distribution {
  const half = farthest / binWidth;
  const counts = new Uint32Array(2 * half + 1);
  const { count, on } = notesOf(events);
  for (let n = 0; n < count; n++) {
    const tick = events.atTick[on[n]!]!;
    const line = (Math.round((tick * 4) / quarter) * quarter) / 4;
    const late = (ticksToSeconds(tempo, tick) - ticksToSeconds(tempo, line)) * 1000;
    counts[Math.min(half, Math.max(-half, Math.round(late / binWidth))) + half]!++;
  }
  const name = (n: number): string =>
    Math.abs(n) === half
      ? `${n < 0 ? 'earlier than −' : 'later than '}${farthest - binWidth}`
      : n < 0
        ? `−${-n * binWidth}`
        : `${n * binWidth}`;
  return binned(
    'Beside the grid of 1/16, in ms',
    Array.from(counts, (_, n) => name(n - half)),
    counts,
  );
}

/** Of longer songs several bars are counted together. */
const mostBins = 32;

/** Values of controllers, bends and pressure over the bars. */
function overBars(events: Events, { meters }: CountedOver): Distribution {
  const lanes = lanesOf(events);
  // To the end of the track: where it is still, it is seen to be.
  const bars = barsUntil(meters, endTick(events) + 1);
  const together = Math.ceil(bars / mostBins);
  const counts = new Uint32Array(Math.ceil(bars / together));
  for (const { rows } of lanes)
    for (const row of rows)
      counts[Math.floor((positionAt(meters, events.atTick[row]!).bar - 1) / together)]!++;
  const name = (n: number): string =>
    together === 1
      ? `bar ${n + 1}`
      : `bars ${n * together + 1}–${Math.min(bars, (n + 1) * together)}`;
  return binned(
    'Values of controllers',
    Array.from(counts, (_, n) => name(n)),
    counts,
  );
}
