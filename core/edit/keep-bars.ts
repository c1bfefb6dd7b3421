import { META, meta, type Events } from '../smf/events.ts';
import { pickEvents } from '../smf/event-builder.ts';
import { notesOf } from '../song/notes.ts';
import { withEvents, type Song, type Track } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barsUntil, barTick, meterMap, positionAt, type MeterMap } from '../timing/meter-map.ts';
import type { Moves, Piece } from '../timing/time-map.ts';
import type { Meter } from '../timing/timing.ts';
import { keepLengths } from './least-length.ts';
import { counted } from './rewrite.ts';
import { sortedByTick } from './retime.ts';

/** What becomes of notes that begin where their bar, now shorter, has ended. */
export type Beyond = 'moved' | 'cut';

export interface BarsKept {
  readonly song: Song;
  readonly moved: number;
  /** Tracks that changed, with how many of their events moved: none where only the end did. */
  readonly byTrack: readonly { readonly id: string; readonly count: number }[];
  /** In words, what no longer fits its bar. */
  readonly said: readonly string[];
  readonly moves: Moves;
  /** Where a place that was counted in the edited song stands now: the same bar, the same distance into it. */
  readonly placed: (tick: number) => number;
}

/**
 * The song with every event in the bar, and as far into it, as it was in `before`, though meters were
 * edited: what began on bar n, beat b begins there again. Meters that were there already begin their bar as
 * they did, those that came the bar at whose tick they were put. Where a bar has become shorter, notes that
 * begin behind its end go to the next bar line, or are taken out; notes end with it at the latest; whatever
 * else stood there stands at the next bar line, before what is there. `edited` differs from `before` in
 * meters alone.
 */
export function keepBars(before: Song, edited: Song, beyond: Beyond): BarsKept {
  const old = meterMap(timingOf(before).meters, before.division);
  const counted = meterMap(timingOf(edited).meters, edited.division);
  const { meters, tickOf } = metersByBar(before, edited, old, counted);
  const now = meterMap(meters, edited.division);
  const tracks: Track[] = [];
  const byTrack: { id: string; count: number }[] = [];
  const left = { beyond: 0, out: 0, ended: 0 };
  for (const track of edited.tracks) {
    const { events, moved } = rebarred(track.events, { old, now, tickOf, beyond }, left);
    tracks.push(events === track.events ? track : withEvents(track, events));
    if (events !== track.events) byTrack.push({ id: track.id, count: moved });
  }
  return {
    song: { ...edited, tracks },
    moved: byTrack.reduce((sum, { count }) => sum + count, 0),
    byTrack,
    said: words(left, beyond),
    moves: { song: piecesOf(old, now, timingOf(before).endTick, beyond) },
    placed: (tick) => placeOf(counted, now, tick).tick,
  };
}

interface LeftOver {
  beyond: number;
  out: number;
  ended: number;
}

const words = ({ beyond, out, ended }: LeftOver, way: Beyond): string[] => [
  ...(beyond > 0
    ? [
        `${counted(beyond, 'note')} past the end of ${beyond === 1 ? 'its bar' : 'their bars'} ${way === 'cut' ? 'taken out' : 'moved to the next bar line'}`,
      ]
    : []),
  ...(out > 0 ? [`${counted(out, 'note')} taken out, where one of the key begins already`] : []),
  ...(ended > 0 ? [`${counted(ended, 'note')} cut short at the bar line`] : []),
];

/** The meters by the bars they begin, and where each of the edited song's stands now; null for one that another takes the place of. */
function metersByBar(
  before: Song,
  edited: Song,
  old: MeterMap,
  counted: MeterMap,
): { meters: Meter[]; tickOf: ReadonlyMap<number, number | null> } {
  const stood = new Set(timingOf(before).meters.map(meterKey));
  const placed = timingOf(edited).meters.map((meter) => {
    const isOld = stood.has(meterKey(meter));
    const map = isOld ? old : counted;
    const bar = barOf(map, meter.atTick);
    return { meter, isOld, bar, into: meter.atTick - barTick(map, Math.max(1, bar - 1)) };
  });
  const taken = new Set(placed.filter((p) => !p.isOld).map((p) => p.bar));
  const tickOf = new Map<number, number | null>();
  const meters: Meter[] = [];
  let last = meterMap([], edited.division)[0]!;
  const lineOf = (bar: number): number =>
    Math.ceil(last.atTick + (bar - last.bar) * last.barTicks - 1e-9);
  for (const { meter, isOld, bar, into } of placed.sort((a, b) => a.bar - b.bar)) {
    if (isOld && taken.has(bar)) {
      tickOf.set(meter.atTick, null);
      continue;
    }
    // One that cuts the bar before it short goes on doing so.
    const atTick =
      bar <= last.bar ? last.atTick : Math.min(lineOf(bar), lineOf(bar - 1) + Math.max(1, into));
    tickOf.set(meter.atTick, atTick);
    meters.push({ ...meter, atTick });
    last = { ...meterMap([{ ...meter, atTick: 0 }], edited.division)[0]!, atTick, bar };
  }
  return { meters, tickOf };
}

const meterKey = ({ atTick, numerator, denominator }: Meter): string =>
  `${atTick} ${numerator}/${denominator}`;
const barOf = (map: MeterMap, tick: number): number => positionAt(map, tick).bar;

/** The same bar, the same distance into it; at the next bar line where that is behind the bar's end. */
function placeOf(from: MeterMap, to: MeterMap, tick: number): { tick: number; isBeyond: boolean } {
  const bar = barOf(from, tick);
  const place = barTick(to, bar) + (tick - barTick(from, bar));
  const next = barTick(to, bar + 1);
  return place < next ? { tick: place, isBeyond: false } : { tick: next, isBeyond: true };
}

/** Where what ends at a tick ends: in the bar that leads up to it, at its end at the latest. */
function endOf(from: MeterMap, to: MeterMap, tick: number): { tick: number; isCut: boolean } {
  const bar = tick === 0 ? 1 : barOf(from, tick - 1);
  const place = barTick(to, bar) + (tick - barTick(from, bar));
  const next = barTick(to, bar + 1);
  return { tick: Math.min(place, next), isCut: place > next };
}

interface Rebar {
  readonly old: MeterMap;
  readonly now: MeterMap;
  readonly tickOf: ReadonlyMap<number, number | null>;
  readonly beyond: Beyond;
}

function rebarred(
  events: Events,
  { old, now, tickOf, beyond }: Rebar,
  left: LeftOver,
): { events: Events; moved: number } {
  const atTick = events.atTick.slice();
  const rank = new Int8Array(events.count);
  const gone = new Set<number>();
  const isBeyond = new Uint8Array(events.count);
  for (let row = 0; row < events.count; row++) {
    const tick = events.atTick[row]!;
    if (events.status[row] === META && events.data1[row] === meta.timeSignature) {
      const there = tickOf.get(tick);
      if (there === null) gone.add(row);
      else atTick[row] = there ?? tick;
      continue;
    }
    const place = placeOf(old, now, tick);
    atTick[row] = place.tick;
    isBeyond[row] = Number(place.isBeyond);
    if (place.isBeyond && events.status[row]! >> 4 !== 9) rank[row] = -1;
  }
  const notes = notesOf(events);
  const takeOut = (n: number): void => {
    gone.add(notes.on[n]!);
    if (notes.off[n] !== -1) gone.add(notes.off[n]!);
  };
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    if (isBeyond[on]) left.beyond++;
    if (isBeyond[on] && beyond === 'cut') takeOut(n);
    if (off === -1) continue;
    rank[off] = -1;
    const end = endOf(old, now, events.atTick[off]!);
    if (isBeyond[on]) atTick[off] = atTick[on]! + events.atTick[off]! - events.atTick[on]!;
    else {
      atTick[off] = end.tick;
      if (end.isCut) left.ended++;
    }
  }
  dropIdle(events, atTick, isBeyond, gone);
  if (beyond === 'moved') keepKeysApart(events, atTick, isBeyond, takeOut, left);
  let moved = 0;
  for (let row = 0; row < events.count; row++)
    if (atTick[row] !== events.atTick[row] && !gone.has(row) && row < events.count - 1) moved++;
  const last = events.count - 1;
  if (moved === 0 && gone.size === 0 && atTick[last] === events.atTick[last])
    return { events, moved };
  keepLengths(events, atTick, rank);
  if (gone.size === 0) return { events: sortedByTick(events, atTick, rank), moved };
  const stay = Array.from(events.atTick.keys()).filter((row) => !gone.has(row));
  return {
    events: sortedByTick(
      pickEvents(events, stay),
      Float64Array.from(stay, (row) => atTick[row]!),
      Int8Array.from(stay, (row) => rank[row]!),
    ),
    moved: moved + gone.size,
  };
}

/** Tempos and keys that went to a bar line and say nothing there, since another stands behind them on it. */
function dropIdle(
  events: Events,
  atTick: Float64Array,
  isBeyond: Uint8Array,
  gone: Set<number>,
): void {
  const last = new Map<number, number>();
  for (let row = events.count - 1; row >= 0; row--) {
    const type = events.data1[row]!;
    if (events.status[row] !== META || (type !== meta.tempo && type !== meta.keySignature))
      continue;
    if (isBeyond[row] && last.get(type) === atTick[row]) gone.add(row);
    last.set(type, atTick[row]!);
  }
}

/** Notes that went to a bar line, and those of their key: none begins with another, none ends behind the next one's beginning. */
function keepKeysApart(
  events: Events,
  atTick: Float64Array,
  isBeyond: Uint8Array,
  takeOut: (n: number) => void,
  left: LeftOver,
): void {
  const notes = notesOf(events);
  const byKey = new Map<number, number[]>();
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const key = ((events.status[on]! & 15) << 7) | events.data1[on]!;
    const list = byKey.get(key);
    if (list) list.push(n);
    else byKey.set(key, [n]);
  }
  const start = (n: number): number => atTick[notes.on[n]!]!;
  for (const list of byKey.values()) {
    if (!list.some((n) => isBeyond[notes.on[n]!])) continue;
    // What stands on a line stays there; of those that went to it the first.
    list.sort(
      (a, b) => start(a) - start(b) || isBeyond[notes.on[a]!]! - isBeyond[notes.on[b]!]! || a - b,
    );
    let last = -1;
    for (const n of list) {
      if (last !== -1 && start(n) === start(last) && isBeyond[notes.on[n]!]) {
        takeOut(n);
        left.beyond--;
        left.out++;
        continue;
      }
      const off = last === -1 ? -1 : notes.off[last]!;
      if (off !== -1 && isBeyond[notes.on[last]!] && atTick[off]! > start(n))
        atTick[off] = start(n);
      last = n;
    }
  }
}

/** Bars are told one by one up to so many; behind them time is told as if it were stretched. */
const maxBars = 20_000;

/** Of a tick: as much of new time as what is behind the end of a shorter bar has, before the next bar line. */
const hair = 1 / 1024;

/** How time moved, bar by bar where bars changed their length. */
function piecesOf(old: MeterMap, now: MeterMap, endTick: number, beyond: Beyond): Piece[] {
  const last = barsUntil(old, endTick);
  // The bar before a meter may be cut short: it stands by itself.
  const borders = [...new Set([...old, ...now].flatMap((s) => [s.bar - 1, s.bar]))]
    .filter((bar) => bar >= 1 && bar <= last)
    .sort((a, b) => a - b);
  const pieces: Piece[] = [];
  const piece = (bar: number, until: number | null, scale = 1): void =>
    void pieces.push({ from: barTick(old, bar), until, to: barTick(now, bar), scale });
  borders.forEach((first, n) => {
    const next = borders[n + 1];
    const [had, has] = [old, now].map((map) => barTick(map, first + 1) - barTick(map, first)) as [
      number,
      number,
    ];
    if (had === has) return piece(first, next === undefined ? null : barTick(old, next));
    const end = next ?? last + 1;
    const told = Math.min(end, first + maxBars);
    for (let bar = first; bar < told; bar++) {
      const [from, next] = [barTick(old, bar), barTick(old, bar + 1)];
      const until = from + Math.min(has, next - from);
      piece(bar, until);
      if (beyond === 'moved' && until < next)
        pieces.push({
          from: until,
          until: next,
          to: barTick(now, bar + 1) - hair,
          scale: hair / (next - until),
        });
    }
    if (told < end) piece(told, barTick(old, end), has / had);
    if (next === undefined) piece(end, null);
  });
  return pieces;
}
