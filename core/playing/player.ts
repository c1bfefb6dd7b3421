import { META, meta, isMeta, type Events } from '../smf/events.ts';
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
  private readonly ports: readonly number[];
  private readonly map: TempoMap;
  private readonly to: Instrument;
  private readonly next: Uint32Array;
  private silent: ReadonlySet<number> = new Set();
  /** First tick that has not been played. */
  private atTick = 0;

  constructor(tracks: readonly Events[], map: TempoMap, to: Instrument) {
    this.tracks = tracks;
    this.ports = tracks.map(portOf);
    this.map = map;
    this.to = to;
    this.next = new Uint32Array(tracks.length);
  }

  /** Numbers of tracks whose notes are left out from now on. */
  leaveOut(tracks: ReadonlySet<number>): void {
    this.silent = tracks;
  }

  /** Goes to a time: all notes end, and programs, controllers, bend and pressure are as they would be had it been played until there. */
  seek(seconds: number): void {
    this.to.reset();
    this.atTick = Math.ceil(secondsToExactTicks(this.map, seconds) - 1e-6);
    const last: Remembered = new Map();
    this.tracks.forEach((events, n) => {
      let i = 0;
      for (; i < events.count && events.atTick[i]! < this.atTick; i++)
        this.remember(last, events, n, i);
      this.next[n] = i;
    });
    for (const { send } of [...last.values()].sort((a, b) => a.tick - b.tick)) send();
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
      else if (status >> 4 !== 9 || events.data2[i] === 0 || !this.silent.has(n))
        this.to.message(this.ports[n]!, status, events.data1[i]!, events.data2[i]!);
    }
    this.next[n] = i;
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
    const key =
      kind === 0xb && inOrder.has(data1)
        ? Symbol('said')
        : `${port} ${status} ${kind === 0xb ? data1 : ''}`;
    const before = last.get(key);
    if (before && before.tick > tick) return;
    last.delete(key);
    last.set(key, { tick, send: () => this.to.message(port, status, data1, data2) });
  }
}

/** What has to be said again, by what it replaces. */
type Remembered = Map<string | symbol, { readonly tick: number; readonly send: () => void }>;

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
