import { bisectLeft } from 'd3-array';
import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import {
  channelEvent,
  eventAt,
  META,
  meta,
  payloadOf,
  SYSEX,
  type Events,
  type EventValue,
} from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { meantType } from '../../smf/own-events.ts';
import { meterEvent, tempoEvent } from '../../edit/edit-map.ts';
import { sortedByTick } from '../../edit/retime.ts';
import { indexEvents } from '../../song/event-index.ts';
import { notesOf } from '../../song/notes.ts';
import { withEvents, type Song } from '../../song/song.ts';
import { defaultTempo } from '../../timing/tempo-map.ts';
import { sameBytes } from '../../smf/chunks.ts';
import { saidOnce } from '../../edit/sets-up.ts';
import { outlineOf } from '../outline.ts';
import { isInOrder, keyOf, Told, type Said } from '../../playing/told.ts';

/** What holds until another of its kind. */
const holding: ReadonlySet<number> = new Set([meta.tempo, meta.timeSignature, meta.keySignature]);

/**
 * The bars of a part so many times. Each time begins as the first did: what was said in between is taken
 * back, what was changed is said again, and no more than that. Notes that ring over an end ring on until
 * their key is struck again.
 *
 * @param length ticks of one time
 */
export function repeated(song: Song, length: number, times: number): Song {
  if (times === 1) return song;
  const anew = begunAnew(song);
  const tracks = song.tracks.map((track, place) => {
    const { events } = track;
    const again = againOf(events, (row) => anew.again(place, row));
    const back = eventsFrom(anew.back.get(place) ?? []);
    const passes = [events];
    for (let n = 1; n < times; n++) passes.push(later(back, n * length), later(again, n * length));
    return withEvents(track, keptApart(mergeEvents(passes), length));
  });
  return { ...song, tracks };
}

const later = (events: Events, by: number): Events => ({
  ...events,
  atTick: events.atTick.map((tick) => tick + by),
});

/** The rows that are said each time. */
function againOf(events: Events, again: (row: number) => boolean): Events {
  const rows: number[] = [];
  for (let i = 0; i < events.count - 1; i++) {
    if (events.status[i] === META && saidOnce.has(meantType(events, i))) continue;
    if (events.atTick[i]! > 0 || again(i)) rows.push(i);
  }
  rows.push(events.count - 1);
  return pickEvents(events, rows);
}

interface Anew {
  /** Of a row on the first tick whether it has to be said again. */
  again(track: number, row: number): boolean;
  /** What takes back what was said in between, by the place of the track that says it. */
  readonly back: ReadonlyMap<number, readonly EventValue[]>;
}

function begunAnew(song: Song): Anew {
  const ports = song.tracks.map((t) => outlineOf(t.events).port);
  const columns = song.tracks.map((t) => t.events);
  const said = (track: number, row: number): Said => {
    const { status, data1, data2 } = columns[track]!;
    return {
      port: ports[track]!,
      status: status[row]!,
      data1: data1[row]!,
      data2: data2[row]!,
      ...(status[row]! >= 0xf0 ? { bytes: payloadOf(columns[track]!, row) } : {}),
    };
  };
  const index = indexEvents(columns, saysSomething);
  const told = new Told();
  const there: Said[] = [];
  for (let n = 0; n < index.count; n++) {
    const one = said(index.track[n]!, index.row[n]!);
    told.add(one);
    if (columns[index.track[n]!]!.atTick[index.row[n]!] === 0) there.push(one);
  }
  const differences = told.differences(there);
  const disputed = disputedIn(there);
  const isPart = (one: Said): boolean => isInOrder(one) && disputed.has(keyOf(one));
  const whole = new Set(there.filter(isPart).map(channelOf));
  const map = mapAgain(song);
  const back = new Map<number, EventValue[]>();
  if (map.back.length > 0) back.set(0, [...map.back]);
  for (const { port, status, data1, data2 } of differences.reset) {
    const home = columns.findIndex(
      (events, t) => ports[t] === port && events.status.includes(status),
    );
    back.set(home, [...(back.get(home) ?? []), channelEvent(0, status, data1, data2)]);
  }
  return {
    back,
    again: (track, row) => {
      const events = columns[track]!;
      if (events.status[row] === META) return map.again(events, row);
      if (!saysSomething(events, row)) return true;
      const one = said(track, row);
      // Parameters are said again as a whole or not at all: data alone would reach another.
      const isDisputed = isInOrder(one) ? whole.has(channelOf(one)) : disputed.has(keyOf(one));
      return isDisputed || differences.again(one);
    },
  };
}

const channelOf = ({ port, status }: Said): number => port * 16 + (status & 15);

/**
 * What is said more than once on the first tick, as where two tracks share a channel: the last of it is not
 * what all notes there meet.
 */
function disputedIn(there: readonly Said[]): Set<number> {
  const seen = new Set<number>();
  return new Set(
    there.map(keyOf).filter((key) => {
      const again = seen.has(key);
      seen.add(key);
      return again;
    }),
  );
}

/** Channel messages but notes and pressure on keys, and system exclusive ones. */
const saysSomething = ({ status }: Events, row: number): boolean =>
  status[row]! >= 0xb0 && status[row]! <= SYSEX;

/**
 * Of tempo, meter and key: what has to be said again on the first tick, and what is taken back that was not
 * said there.
 */
function mapAgain(song: Song): {
  again(events: Events, row: number): boolean;
  back: EventValue[];
} {
  const first = new Map<number, EventValue>();
  const last = new Map<number, EventValue>();
  for (const { events } of song.tracks)
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] !== META || !holding.has(events.data1[i]!)) continue;
      const event = eventAt(events, i);
      if (event.atTick === 0) first.set(event.data1, event);
      if (event.atTick >= (last.get(event.data1)?.atTick ?? 0)) last.set(event.data1, event);
    }
  const usual = [tempoEvent(0, defaultTempo), meterEvent(0, 4, 4)];
  return {
    again: (events, row) => {
      const type = events.data1[row]!;
      if (!holding.has(type)) return true;
      // Of several on the first tick the last holds.
      const holds = first.get(type)!.payload;
      return sameBytes(payloadOf(events, row), holds) && !sameBytes(holds, last.get(type)!.payload);
    },
    back: usual.filter(({ data1 }) => last.has(data1) && !first.has(data1)),
  };
}

/** Notes that ring into the next time end where their key is struck there. */
function keptApart(events: Events, length: number): Events {
  const notes = notesOf(events);
  const keyOf = (row: number): number => ((events.status[row]! & 15) << 7) | events.data1[row]!;
  const begins = new Map<number, number[]>();
  for (const on of notes.on) {
    const ticks = begins.get(keyOf(on));
    if (ticks) ticks.push(events.atTick[on]!);
    else begins.set(keyOf(on), [events.atTick[on]!]);
  }
  const atTick = events.atTick.slice();
  const rank = new Int8Array(events.count);
  for (let n = 0; n < notes.count; n++) {
    const [on, off] = [notes.on[n]!, notes.off[n]!];
    if (off === -1) continue;
    const over = (Math.floor(atTick[on]! / length) + 1) * length;
    if (atTick[off]! <= over) continue;
    const ticks = begins.get(keyOf(on))!;
    const struck = ticks[bisectLeft(ticks, over)];
    if (struck === undefined || struck >= atTick[off]!) continue;
    atTick[off] = struck;
    rank[off] = -1;
  }
  return rank.some((r) => r !== 0) ? sortedByTick(events, atTick, rank) : events;
}
