import type { SongView } from '#contracts/songs.ts';
import { keySignatureText } from '#core/song/key-names.ts';
import type { Maps } from '#core/song/maps.ts';
import type { Proposed } from '#core/song/repeats.ts';
import { barTick, meterAt, positionAt, quarterTicks } from '#core/timing/meter-map.ts';
import { tempoAt, ticksToSeconds } from '#core/timing/tempo-map.ts';
import { tempoText } from '../components/text.ts';

/** A span of bars that is put in order: a section, or what lies between. */
export interface Span {
  /** Its own in the list, also where its bars are there several times. */
  readonly id: string;
  readonly name: string;
  /** First and last bar, as they are numbered in the song. */
  readonly from: number;
  readonly to: number;
  /** Of one that is told from what repeats: how sure, 0 to 1. */
  readonly sure?: number;
}

export type Order = readonly Span[];

export const barsIn = ({ from, to }: Pick<Span, 'from' | 'to'>): number => to - from + 1;
export const lengthOf = (order: Order): number => order.reduce((sum, s) => sum + barsIn(s), 0);

/** The bar at which each span begins in an order. */
export function startsOf(order: Order): number[] {
  const starts: number[] = [];
  let bar = 1;
  for (const span of order) {
    starts.push(bar);
    bar += barsIn(span);
  }
  return starts;
}

type Named = Pick<Span, 'name' | 'from' | 'to' | 'sure'>;

/** Spans of bars one after the other, with what lies before, between and behind them. */
function withBetween(named: readonly Named[], bars: number): Order {
  const spans: Named[] = [];
  let next = 1;
  const between = (until: number): void => {
    if (until < next) return;
    spans.push({ name: '', from: next, to: until });
  };
  for (const span of named) {
    const from = Math.max(span.from, next);
    const to = Math.min(span.to, bars);
    // One within another is part of it; of one that begins in another's last bar the rest stands by itself.
    if (from > to) continue;
    between(from - 1);
    spans.push({ ...span, from, to });
    next = to + 1;
  }
  between(bars);
  return spans.map((s, n) => ({ ...s, id: `s${n}` }));
}

/** The song's sections in the order in which they are, and where they are from. */
export function orderOf(
  song: SongView,
  { meters }: Maps,
  proposed: readonly Proposed[],
): { order: Order; from: 'sections' | 'markers' | 'repetition' } {
  const { sections, markers, bars } = song.timing;
  // A mark a little before a bar line, or behind it, is at it: bars are cut so, too.
  const near = quarterTicks(song.division) / 4;
  const barAt = (tick: number): number => positionAt(meters, tick + Math.ceil(near) - 1).bar;
  const lastBar = (tick: number): number => positionAt(meters, Math.max(0, tick - near)).bar;
  if (sections.length > 0)
    return {
      from: 'sections',
      order: withBetween(
        sections.map((s) => ({ name: s.name, from: barAt(s.fromTick), to: lastBar(s.toTick) })),
        bars,
      ),
    };
  const starts = markers.filter(
    (m, n) => n === 0 || barAt(m.atTick) > barAt(markers[n - 1]!.atTick),
  );
  if (starts.length > 1)
    return {
      from: 'markers',
      order: withBetween(
        starts.map((m, n) => ({
          name: m.text,
          from: barAt(m.atTick),
          to: starts[n + 1] ? barAt(starts[n + 1]!.atTick) - 1 : bars,
        })),
        bars,
      ),
    };
  return { from: 'repetition', order: withBetween(proposed, bars) };
}

export const spanName = ({ name, from, to }: Pick<Span, 'name' | 'from' | 'to'>): string =>
  name || (from === to ? `Bar ${from}` : `Bars ${from}–${to}`);

/** One place earlier (−1) or later; the same list where there is none. */
export function moved(order: Order, id: string, by: number): Order {
  const at = order.findIndex((s) => s.id === id);
  const to = at + by;
  if (at === -1 || to < 0 || to >= order.length) return order;
  const next = [...order];
  next.splice(to, 0, ...next.splice(at, 1));
  return next;
}

/** Once more, right behind itself. */
export function repeated(order: Order, id: string): Order {
  const at = order.findIndex((s) => s.id === id);
  if (at === -1) return order;
  const again = order.filter((s) => s.id.split('+')[0] === id.split('+')[0]).length;
  const next = [...order];
  next.splice(at + 1, 0, { ...order[at]!, id: `${id.split('+')[0]}+${again}${order.length}` });
  return next;
}

export const without = (order: Order, id: string): Order => order.filter((s) => s.id !== id);

export const sameOrder = (a: Order, b: Order): boolean =>
  a.length === b.length && a.every((s, n) => s.from === b[n]!.from && s.to === b[n]!.to);

/** Spans that are in the song and not in the order. */
export const leftOut = (all: Order, order: Order): Order =>
  all.filter((s) => !order.some((o) => o.from === s.from && o.to === s.to));

/** What an order sounds like where two of its spans meet that did not before. */
export interface Join {
  /** The bar that begins there, as it is numbered then. */
  readonly bar: number;
  readonly says: string;
}

/** Keys, tempos and meters on both sides of each new join. */
export function joinsOf(order: Order, song: SongView, maps: Maps): Join[] {
  const joins: Join[] = [];
  let bar = 1;
  order.forEach((span, n) => {
    const before = order[n - 1];
    if (before && before.to + 1 !== span.from)
      joins.push({ bar, says: changes(before.to, span.from, song, maps) });
    bar += barsIn(span);
  });
  return joins;
}

function changes(last: number, first: number, song: SongView, maps: Maps): string {
  const ends = Math.max(0, barTick(maps.meters, last + 1) - 1);
  const begins = barTick(maps.meters, first);
  const said = [ends, begins].map((tick) => {
    const key = song.timing.keys.findLast((k) => k.atTick <= tick);
    const meter = meterAt(maps.meters, tick);
    return [
      `${meter.numerator}/${meter.denominator}`,
      song.division.kind === 'ppq' ? tempoText(tempoAt(maps.tempo, tick), meter) : '',
      key ? keySignatureText(key.sharps, key.minor) : '',
    ];
  });
  const differ = said[0]!.flatMap((was, n) =>
    was === said[1]![n] ? [] : [`${was || 'no key'} → ${said[1]![n] || 'no key'}`],
  );
  return differ.length === 0 ? 'nothing changes' : differ.join(', ');
}

/** The key that a span begins in, where the song says one. */
export function keyOf(span: Span, song: SongView, { meters }: Maps): string {
  const tick = barTick(meters, span.from);
  const key = song.timing.keys.findLast((k) => k.atTick <= tick);
  return key ? keySignatureText(key.sharps, key.minor) : '';
}

/** How long a span sounds, in seconds. */
export const secondsOf = ({ from, to }: Span, { meters, tempo }: Maps): number =>
  ticksToSeconds(tempo, barTick(meters, to + 1)) - ticksToSeconds(tempo, barTick(meters, from));

/** The order as a step takes it: neighbours that go on are one. */
export function orderAsked(order: Order): { from: number; to: number }[] {
  const asked: { from: number; to: number }[] = [];
  for (const { from, to } of order) {
    const last = asked.at(-1);
    if (last && last.to + 1 === from) asked[asked.length - 1] = { from: last.from, to };
    else asked.push({ from, to });
  }
  return asked;
}
