import type { Division } from '#core/smf/division.ts';
import type { Events } from '#core/smf/events.ts';
import { lanesOf, laneKey, type Lane } from '#core/song/lanes.ts';
import { notesOf } from '#core/song/notes.ts';
import { quarterTicks } from '#core/timing/meter-map.ts';

/** A note in a small picture: ticks, key, velocity. */
export type Stroke = readonly [from: number, to: number, key: number, velocity: number];

/** The stretch of a track around its first change, as it is and as it would be. */
export interface Picture {
  readonly from: number;
  readonly to: number;
  readonly notes?: { readonly before: readonly Stroke[]; readonly after: readonly Stroke[] };
  readonly lane?: {
    readonly what: Lane['what'];
    readonly before: readonly (readonly [number, number])[];
    readonly after: readonly (readonly [number, number])[];
  };
}

const quartersShown = 16;
const mostStrokes = 400;
const mostPoints = 800;

/** What changes between two states of a track, where it first does; undefined where neither notes nor lanes do. */
export function pictureOf(before: Events, after: Events, division: Division): Picture | undefined {
  const first = firstDifference(before, after);
  if (first === undefined) return undefined;
  const quarter = quarterTicks(division);
  const from = Math.max(0, Math.floor(first / quarter - 1) * quarter);
  const to = from + quartersShown * quarter;
  const notes = { before: strokes(before, from, to), after: strokes(after, from, to) };
  const lane = changedLane(before, after, from, to);
  const moved = JSON.stringify(notes.before) !== JSON.stringify(notes.after);
  if (!moved && !lane) return undefined;
  return { from, to, ...(moved ? { notes } : {}), ...(lane ? { lane } : {}) };
}

/** Tick of the first row that differs. */
function firstDifference(a: Events, b: Events): number | undefined {
  const count = Math.min(a.count, b.count);
  for (let i = 0; i < count; i++) {
    if (
      a.atTick[i] !== b.atTick[i] ||
      a.status[i] !== b.status[i] ||
      a.data1[i] !== b.data1[i] ||
      a.data2[i] !== b.data2[i]
    )
      return Math.min(a.atTick[i]!, b.atTick[i]!);
  }
  return a.count === b.count
    ? undefined
    : Math.min(a.atTick[count] ?? Infinity, b.atTick[count] ?? Infinity);
}

function strokes(events: Events, from: number, to: number): Stroke[] {
  const notes = notesOf(events);
  const found: Stroke[] = [];
  for (let n = 0; n < notes.count && found.length < mostStrokes; n++) {
    const on = notes.on[n]!;
    const start = events.atTick[on]!;
    if (start >= to) break;
    const off = notes.off[n]!;
    const end = off === -1 ? to : events.atTick[off]!;
    if (end > from) found.push([start, end, events.data1[on]!, events.data2[on]!]);
  }
  return found;
}

/** The lane that differs most in the stretch. */
function changedLane(before: Events, after: Events, from: number, to: number): Picture['lane'] {
  const [a, b] = [lanesOf(before), lanesOf(after)].map(
    (lanes) => new Map(lanes.map((l) => [laneKey(l.channel, l.what), l])),
  );
  let best: Picture['lane'];
  let most = 0;
  for (const key of new Set([...a!.keys(), ...b!.keys()])) {
    const was = points(before, a!.get(key), from, to);
    const is = points(after, b!.get(key), from, to);
    if (was.length + is.length <= most || JSON.stringify(was) === JSON.stringify(is)) continue;
    most = was.length + is.length;
    best = { what: (a!.get(key) ?? b!.get(key))!.what, before: was, after: is };
  }
  return best;
}

/** Values of a lane in the stretch, the one in force at its beginning with them. */
function points(
  { atTick }: Events,
  lane: Lane | undefined,
  from: number,
  to: number,
): [number, number][] {
  if (!lane) return [];
  const found: [number, number][] = [];
  for (let n = 0; n < lane.rows.length && found.length < mostPoints; n++) {
    const tick = atTick[lane.rows[n]!]!;
    if (tick >= to) break;
    if (tick <= from) found.length = 0;
    found.push([Math.max(from, tick), lane.values[n]!]);
  }
  return found;
}
