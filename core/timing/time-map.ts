import { secondsToExactTicks, ticksToSeconds, type TempoMap } from './tempo-map.ts';

/**
 * A stretch of old time and where it lies now: an old tick t, `from` ≤ t < `until`, stands at `to` + (t −
 * `from`) × `scale`. Shifted where the scale is 1, else stretched; `until` null: without end.
 */
export interface Piece {
  readonly from: number;
  readonly until: number | null;
  readonly to: number;
  readonly scale: number;
}

/**
 * How time moved, in pieces in the order of new time. Old time that is in no piece is gone, in several it
 * is there several times; new time between pieces is new. Cut, insert, move, repeat and a running order are
 * all of this kind. Places are exact; events stand on the nearest tick.
 */
export type TimeMap = readonly Piece[];

export const sameTime: TimeMap = [{ from: 0, until: null, to: 0, scale: 1 }];

export const isSameTime = (map: TimeMap): boolean =>
  joined(map).every((p) => p.to === p.from && p.scale === 1) &&
  joined(map).length === 1 &&
  map[0]!.from === 0 &&
  map.at(-1)!.until === null;

const endOf = ({ until }: Piece): number => until ?? Infinity;
const placeIn = ({ from, to, scale }: Piece, tick: number): number => to + (tick - from) * scale;

/**
 * Where an old tick stands now: nowhere, once or several times. At a border it belongs to the piece that
 * begins there, as what is inserted comes before the bar line's own events; `before` asks for the other
 * side, the end of what led up to it.
 */
export function placesOf(
  map: TimeMap,
  tick: number,
  side: 'behind' | 'before' = 'behind',
): number[] {
  return map
    .filter((p) =>
      side === 'behind' ? tick >= p.from && tick < endOf(p) : tick > p.from && tick <= endOf(p),
    )
    .map((p) => placeIn(p, tick));
}

/** Everything moved by so many ticks; what would come before the beginning is gone. */
export const shiftedBy = (ticks: number): TimeMap => [
  { from: Math.max(0, -ticks), until: null, to: Math.max(0, ticks), scale: 1 },
];
export const stretchedBy = (scale: number): TimeMap => [{ from: 0, until: null, to: 0, scale }];

const newEnd = (p: Piece): number => (p.until === null ? Infinity : placeIn(p, p.until));

/** Old time moved by one map and then by another, as one. */
export function composed(first: TimeMap, then: TimeMap): TimeMap {
  const byFrom = [...then].sort((a, b) => a.from - b.from);
  const pieces: Piece[] = [];
  // Both in the order of the time between: pieces of the second that end before one of the first begins
  // never meet the next ones.
  const open: Piece[] = [];
  let next = 0;
  for (const a of [...first].sort((x, y) => x.to - y.to)) {
    while (next < byFrom.length && byFrom[next]!.from < newEnd(a)) open.push(byFrom[next++]!);
    for (let n = open.length - 1; n >= 0; n--) {
      const b = open[n]!;
      if (endOf(b) <= a.to) open.splice(n, 1);
      else if (b.from < newEnd(a)) pieces.push(meeting(a, b));
    }
  }
  return joined(pieces.sort((a, b) => a.to - b.to));
}

/** The stretch of the time between that both know, from before the first to behind the second. */
function meeting(a: Piece, b: Piece): Piece {
  const from = Math.max(a.to, b.from);
  const until = Math.min(newEnd(a), endOf(b));
  const back = (tick: number): number => a.from + (tick - a.to) / a.scale;
  return {
    from: back(from),
    until: until === Infinity ? null : back(until),
    to: placeIn(b, from),
    scale: a.scale * b.scale,
  };
}

/**
 * The way back: of old time that is there several times, each leads to the same place; what is gone does
 * not come again.
 */
export const inverse = (map: TimeMap): TimeMap =>
  joined(
    map
      .map((p): Piece => ({
        from: p.to,
        until: p.until === null ? null : placeIn(p, p.until),
        to: p.from,
        scale: 1 / p.scale,
      }))
      .sort((a, b) => a.to - b.to),
  );

/** Neighbours that are one piece, as one. */
function joined(map: TimeMap): TimeMap {
  const pieces: Piece[] = [];
  for (const p of map) {
    const last = pieces.at(-1);
    if (last && last.until === p.from && last.scale === p.scale && placeIn(last, p.from) === p.to)
      pieces[pieces.length - 1] = { ...last, until: p.until };
    else pieces.push(p);
  }
  return pieces;
}

/** Where each tick goes that stays in its second while the tempos change: shifted or stretched from tempo to tempo. */
export function secondsKept(old: TempoMap, now: TempoMap): TimeMap {
  const at = (tick: number): number => secondsToExactTicks(now, ticksToSeconds(old, tick));
  const changes = [
    ...old.ticks,
    ...Array.from(now.ticks, (tick) => secondsToExactTicks(old, ticksToSeconds(now, tick))),
  ]
    .filter((tick) => tick >= 0)
    .sort((a, b) => a - b);
  const borders = changes.filter((tick, i) => i === 0 || tick > changes[i - 1]!);
  if (borders[0] !== 0) borders.unshift(0);
  return joined(
    borders.map((from, i): Piece => {
      const until = borders[i + 1] ?? null;
      const beyond = until ?? from + 1;
      return { from, until, to: at(from), scale: (at(beyond) - at(from)) / (beyond - from) };
    }),
  );
}

/** How time moved in a step: the song's, and the whole way of tracks that went another. */
export interface Moves {
  readonly song: TimeMap;
  readonly tracks?: Readonly<Record<string, TimeMap>>;
}

/** Whether nothing moved at all. */
export const isSame = ({ song, tracks }: Moves): boolean =>
  [song, ...Object.values(tracks ?? {})].every(isSameTime);

/** How a track's time moved; a step without moves leaves it as it was. */
export const moveOf = (moves: Moves | undefined, track: string): TimeMap =>
  moves?.tracks?.[track] ?? moves?.song ?? sameTime;

/** One step's moves and then another's, as one. */
export function composedMoves(
  first: Moves | undefined,
  then: Moves | undefined,
): Moves | undefined {
  if (!first || !then) return first ?? then;
  const ids = [...new Set([...Object.keys(first.tracks ?? {}), ...Object.keys(then.tracks ?? {})])];
  const song = composed(first.song, then.song);
  return ids.length === 0
    ? { song }
    : {
        song,
        tracks: Object.fromEntries(
          ids.map((id) => [id, composed(moveOf(first, id), moveOf(then, id))]),
        ),
      };
}

export const inverseMoves = ({ song, tracks }: Moves): Moves => ({
  song: inverse(song),
  ...(tracks
    ? { tracks: Object.fromEntries(Object.entries(tracks).map(([id, own]) => [id, inverse(own)])) }
    : {}),
});
