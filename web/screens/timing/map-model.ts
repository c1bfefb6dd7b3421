import type { GradualRun } from '#core/timing/gradual-runs.ts';
import { tempoWithin } from '#core/timing/gradual.ts';
import { meterAt, positionAt, barTick, type MeterMap } from '#core/timing/meter-map.ts';
import { tempoToBpm } from '#core/units/units.ts';
import type { Tempos } from '../../api/runs.ts';

/** What can be taken hold of in the tempo line: a single tempo, or one end of a gradual change. */
export type Handle =
  | { readonly kind: 'point'; readonly atTick: number; readonly bpm: number }
  | {
      readonly kind: 'from' | 'to';
      readonly run: number;
      readonly atTick: number;
      readonly bpm: number;
    };

/** Settings of `timing.tempos`. */
export interface TempoEdit {
  readonly clear: { from: number; to: number }[];
  readonly points: { atTick: number; tempo: number }[];
  readonly changes: {
    fromTick: number;
    toTick: number;
    from: number;
    to: number;
    shape: GradualRun['shape'];
  }[];
}

const microseconds = (bpm: number): number =>
  Math.min(0xffffff, Math.max(1, Math.round(60_000_000 / bpm)));
const changeOf = ({
  fromTick,
  toTick,
  from,
  to,
  shape,
}: GradualRun): TempoEdit['changes'][number] => ({ fromTick, toTick, from, to, shape });

/** The handles of a map in tick order: tempos inside a gradual change have none of their own. */
export function handlesOf({ points, runs }: Tempos): Handle[] {
  const handles: Handle[] = [];
  let next = 0;
  points.forEach(({ atTick, tempo }, i) => {
    const before = runs[next];
    if (before && i > before.first && i < before.last) return;
    const ends = before && i === before.last;
    if (ends) handles.push({ kind: 'to', run: next++, atTick, bpm: before.to });
    const run = runs[next];
    if (run && i === run.first) handles.push({ kind: 'from', run: next, atTick, bpm: run.from });
    else if (!ends || Math.abs(tempoToBpm(tempo) - before.to) > before.to * 0.002)
      handles.push({ kind: 'point', atTick, bpm: tempoToBpm(tempo) });
  });
  return handles;
}

/** The beat nearest to a tick; with `bars` the bar line. */
export function snapped(meters: MeterMap, tick: number, to: 'beat' | 'bar' | 'sixteenth'): number {
  const at = Math.max(0, tick);
  const { bar, beat } = positionAt(meters, at);
  const [start, next] = [barTick(meters, bar), barTick(meters, bar + 1)];
  if (to === 'bar') return at - start <= next - at ? start : next;
  const { beatTicks } = meterAt(meters, at);
  const step = to === 'beat' ? beatTicks : beatTicks / 4;
  const first = to === 'beat' ? beat - 1 : Math.floor((at - start) / step + 1e-9);
  const [low, high] = [start + first * step, Math.min(next, start + (first + 1) * step)];
  return Math.round(at - low <= high - at ? low : high);
}

/** A handle at another place and tempo. The first tempo of a song stays at its beginning. */
export function moveHandle(
  { points, runs }: Tempos,
  handle: Handle,
  tick: number,
  bpm: number,
): TempoEdit {
  if (handle.kind === 'point') {
    const atTick = handle.atTick === 0 ? 0 : Math.max(1, tick);
    return {
      clear: [{ from: handle.atTick, to: handle.atTick }],
      points: [{ atTick, tempo: microseconds(bpm) }],
      changes: [],
    };
  }
  const run = runs[handle.run]!;
  return moveRun({ points, runs }, handle.run, movedEnd(run, handle.kind, tick, bpm));
}

/** A gradual change in place of the one numbered `n`. */
export function moveRun(
  { points, runs }: Tempos,
  n: number,
  moved: TempoEdit['changes'][number],
): TempoEdit {
  const run = runs[n]!;
  // A neighbour that shares the tick is drawn again as it was: it keeps its own beginning or end.
  const before = runs[n - 1];
  const after = runs[n + 1];
  const neighbours = [
    ...(before?.toTick === run.fromTick && moved.fromTick >= run.fromTick
      ? [changeOf(before)]
      : []),
    ...(after?.fromTick === run.toTick && moved.toTick <= run.toTick ? [changeOf(after)] : []),
  ];
  const clear = [
    { from: Math.min(run.fromTick, moved.fromTick), to: Math.max(run.toTick, moved.toTick) },
  ];
  // Where a change no longer begins at the beginning, its tempo holds from there.
  const lead =
    run.fromTick === 0 && moved.fromTick > 0
      ? [{ atTick: 0, tempo: microseconds(moved.from) }]
      : [];
  // What another tempo than the change leads to says behind it stays.
  const arrival = points[run.last]!;
  const stated =
    moved.toTick === run.toTick &&
    neighbours.every((c) => c.fromTick !== run.toTick) &&
    Math.abs(tempoToBpm(arrival.tempo) - run.to) > run.to * 0.002
      ? [arrival]
      : [];
  return {
    clear,
    points: [...lead, ...stated],
    changes: [...neighbours, moved].sort((a, b) => a.fromTick - b.fromTick),
  };
}

/**
 * A change with one end elsewhere. Drawn past its other end it goes the other way; drawn onto it, it keeps
 * its place.
 */
function movedEnd(
  run: GradualRun,
  end: 'from' | 'to',
  tick: number,
  bpm: number,
): TempoEdit['changes'][number] {
  const [still, its] = end === 'from' ? [run.toTick, run.fromTick] : [run.fromTick, run.toTick];
  const at = tick === still ? its : tick;
  const stillBpm = end === 'from' ? run.to : run.from;
  return at < still
    ? { fromTick: at, toTick: still, from: bpm, to: stillBpm, shape: run.shape }
    : { fromTick: still, toTick: at, from: stillBpm, to: bpm, shape: run.shape };
}

export const addPoint = (tick: number, bpm: number): TempoEdit => ({
  clear: [],
  points: [{ atTick: tick, tempo: microseconds(bpm) }],
  changes: [],
});

export const drawChange = (
  a: { tick: number; bpm: number },
  b: { tick: number; bpm: number },
): TempoEdit => {
  const [from, to] = a.tick < b.tick ? [a, b] : [b, a];
  return {
    clear: [],
    points: [],
    changes: [
      { fromTick: from.tick, toTick: to.tick, from: from.bpm, to: to.bpm, shape: 'over beats' },
    ],
  };
};

/** A tempo out, or a gradual change: then the tempo it began with holds until the one it led to. */
export function removeHandle({ points, runs }: Tempos, handle: Handle): TempoEdit {
  if (handle.kind === 'point')
    return { clear: [{ from: handle.atTick, to: handle.atTick }], points: [], changes: [] };
  const run = runs[handle.run]!;
  const after = runs[handle.run + 1];
  const begins = after !== undefined && after.fromTick === run.toTick;
  return {
    clear: [{ from: run.fromTick, to: begins ? run.toTick - 1 : run.toTick }],
    points: [
      { atTick: run.fromTick, tempo: microseconds(run.from) },
      ...(begins ? [] : [points[run.last]!]),
    ],
    changes: [],
  };
}

/** Tempo at a tick as the line is drawn: within gradual changes their own. */
export function bpmAt({ points, runs }: Tempos, tick: number): number {
  const run = runs.find((r) => tick >= r.fromTick && tick < r.toTick);
  if (!run) return tempoToBpm(points.findLast((p) => p.atTick <= tick)!.tempo);
  const part = (tick - run.fromTick) / (run.toTick - run.fromTick);
  return tempoWithin(run, part);
}
