import { META, meta, isMeta, type Events } from '../smf/events.ts';
import { usualValue } from '../instruments/usual-values.ts';
import { secondsToExactTicks, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';

/** Where messages go: `port` from 0, the status byte with its channel, its data; or the bytes of a system exclusive message. */
export interface Instrument {
  message(port: number, status: number, data1: number, data2: number): void;
  systemExclusive(port: number, bytes: Uint8Array): void;
  /** Everything off and as it is at the start. */
  reset(): void;
}

/** Parts of controller messages that mean something in their order only: data entry, RPN and NRPN. */
const inOrder: ReadonlySet<number> = new Set([6, 38, 96, 97, 98, 99, 100, 101]);

/**
 * Plays the tracks of a song into an instrument, as far as it is told to. Tracks share the channels of their port, as players of files have it.
 * On one tick the tracks speak in their order, each in its own.
 */
export class Player {
  private readonly tracks: readonly Events[];
  readonly ports: readonly number[];
  private readonly map: TempoMap;
  private readonly to: Instrument;
  private readonly next: Uint32Array;
  private silent: ReadonlySet<number> = new Set();
  /** Notes that sound, by track: how many of each channel and key. */
  private readonly sounding: Map<number, number>[];
  /** Messages but notes that were said since the last reset: port, status, and of controllers the number. */
  private readonly said = new Map<
    number,
    { readonly port: number; readonly status: number; readonly data1: number }
  >();
  /** First tick that has not been played. */
  private atTick = 0;

  constructor(tracks: readonly Events[], map: TempoMap, to: Instrument) {
    this.tracks = tracks;
    this.ports = tracks.map(portOf);
    this.map = map;
    this.to = to;
    this.next = new Uint32Array(tracks.length);
    this.sounding = tracks.map(() => new Map());
  }

  /** Numbers of tracks whose notes are left out from now on; those of them that sound end, unless another track sounds them, too. */
  leaveOut(tracks: ReadonlySet<number>): void {
    for (const n of tracks) if (!this.silent.has(n)) this.endNotes(n);
    this.silent = tracks;
  }

  /** Goes to a time: all notes end, and programs, controllers, bend and pressure are as they would be had it been played until there. */
  seek(seconds: number): void {
    this.to.reset();
    this.said.clear();
    for (const notes of this.sounding) notes.clear();
    for (const { send } of this.goTo(seconds).values()) send();
  }

  /**
   * Goes to a time without a break: notes end and ring on as they would, and only what differs there is said: what was said since and is not
   * said before that time goes to where an instrument starts from. What means something in its order only (bend ranges and their like) stays as it
   * is where it is not said before that time.
   */
  jump(seconds: number): void {
    for (let n = 0; n < this.tracks.length; n++) this.endNotes(n);
    const there = this.goTo(seconds);
    for (const [key, { port, status, data1 }] of this.said)
      if (!there.has(key) && !(status >> 4 === 0xb && inOrder.has(data1)))
        this.sayUsual(port, status, data1);
    this.said.clear();
    for (const { send } of there.values()) send();
  }

  /** Where it goes on from a time, and what is in force there, in the order in which it was said. */
  private goTo(seconds: number): Remembered {
    this.atTick = Math.ceil(secondsToExactTicks(this.map, seconds) - 1e-6);
    const last: Remembered = new Map();
    this.tracks.forEach((events, n) => {
      let i = 0;
      for (; i < events.count && events.atTick[i]! < this.atTick; i++)
        this.remember(last, events, n, i);
      this.next[n] = i;
    });
    return new Map([...last].sort(([, a], [, b]) => a.tick - b.tick));
  }

  /** Ends what sounds of a track, unless another track of its port sounds the same. */
  private endNotes(n: number): void {
    for (const note of this.sounding[n]!.keys()) {
      const held = this.sounding.some(
        (notes, other) => other !== n && this.ports[other] === this.ports[n] && notes.has(note),
      );
      if (!held) this.to.message(this.ports[n]!, 0x80 | (note >> 7), note & 127, 0);
    }
    this.sounding[n]!.clear();
  }

  /** What an instrument starts from (General MIDI), of what a message sets. */
  private sayUsual(port: number, status: number, data1: number): void {
    const kind = status >> 4;
    if (kind === 0xb && data1 < 120) this.to.message(port, status, data1, usualValue(data1) ?? 0);
    else if (kind === 0xc || kind === 0xd) this.to.message(port, status, 0, 0);
    else if (kind === 0xe) this.to.message(port, status, 0, 64);
  }

  /** Plays everything before a time that has not been played. */
  advance(seconds: number): void {
    const until = secondsToExactTicks(this.map, seconds);
    if (until <= this.atTick) return;
    for (;;) {
      // The earliest tick among the tracks; on one tick the first track speaks first.
      let earliest = Infinity;
      for (let n = 0; n < this.tracks.length; n++) {
        const { atTick, count } = this.tracks[n]!;
        const i = this.next[n]!;
        if (i < count && atTick[i]! < earliest) earliest = atTick[i]!;
      }
      if (earliest >= until) break;
      for (let n = 0; n < this.tracks.length; n++) this.speak(n, earliest);
    }
    this.atTick = Math.ceil(until);
  }

  /** Time at which the last event stands. */
  get end(): number {
    return ticksToSeconds(
      this.map,
      this.tracks.reduce(
        (latest, { atTick, count }) => Math.max(latest, atTick[count - 1] ?? 0),
        0,
      ),
    );
  }

  private speak(n: number, tick: number): void {
    const events = this.tracks[n]!;
    let i = this.next[n]!;
    for (; i < events.count && events.atTick[i] === tick; i++) {
      const status = events.status[i]!;
      if (status === META) continue;
      if (status >= 0xf0) this.to.systemExclusive(this.ports[n]!, systemExclusiveAt(events, i));
      else this.say(n, status, events.data1[i]!, events.data2[i]!);
    }
    this.next[n] = i;
  }

  private say(n: number, status: number, data1: number, data2: number): void {
    const kind = status >> 4;
    const port = this.ports[n]!;
    if (kind === 8 || kind === 9) {
      const notes = this.sounding[n]!;
      const note = ((status & 15) << 7) | data1;
      const begins = kind === 9 && data2 > 0;
      // A silent track ends nothing that another one sounds.
      if (this.silent.has(n) && (begins || !notes.has(note))) return;
      const count = (notes.get(note) ?? 0) + (begins ? 1 : -1);
      if (count > 0) notes.set(note, count);
      else notes.delete(note);
    } else if (kind >= 0xb) {
      const key = keyOf(port, status, data1);
      if (!this.said.has(key)) this.said.set(key, { port, status, data1 });
    }
    this.to.message(port, status, data1, data2);
  }

  /** Keeps what has to be said again after a jump: the last of each kind, and all of what means something in its order only. */
  private remember(last: Remembered, events: Events, n: number, i: number): void {
    const [status, data1, data2, tick] = [
      events.status[i]!,
      events.data1[i]!,
      events.data2[i]!,
      events.atTick[i]!,
    ];
    const kind = status >> 4;
    if (kind < 0xb || status === META) return;
    const port = this.ports[n]!;
    if (status >= 0xf0)
      return void last.set(Symbol('said'), {
        tick,
        send: () => this.to.systemExclusive(port, systemExclusiveAt(events, i)),
      });
    if (kind === 0xb && data1 > 121) return;
    const key = kind === 0xb && inOrder.has(data1) ? Symbol('said') : keyOf(port, status, data1);
    const before = last.get(key);
    if (before && before.tick > tick) return;
    last.delete(key);
    last.set(key, { tick, send: () => this.to.message(port, status, data1, data2) });
  }
}

/** What has to be said again, by what it replaces. */
type Remembered = Map<number | symbol, { readonly tick: number; readonly send: () => void }>;

/** What a message sets, as one number: of controllers each by itself. */
const keyOf = (port: number, status: number, data1: number): number =>
  ((port << 8) | status) * 128 + (status >> 4 === 0xb ? data1 : 0);

function portOf(events: Events): number {
  for (let i = 0; i < events.count && i < 64; i++)
    if (isMeta(events, i, meta.port))
      return events.pool.bytes[events.pool.start[events.payload[i]!]!] ?? 0;
  return 0;
}

function systemExclusiveAt(events: Events, i: number): Uint8Array {
  const n = events.payload[i]!;
  return events.pool.bytes.subarray(events.pool.start[n], events.pool.end[n]);
}
