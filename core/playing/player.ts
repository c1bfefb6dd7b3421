import { META, type Events } from '../smf/events.ts';
import { portsOf } from './ports.ts';
import { isInOrder, keyOf, Told, type Said } from './told.ts';
import { secondsToExactTicks, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';

/**
 * Where messages go: `port` from 0, the status byte with its channel, its data; or the bytes of a system
 * exclusive message.
 */
export interface Instrument {
  /**
   * `track` is there for what is about a note that this track sounds; all else is for the channel, whoever
   * plays on it.
   */
  message(port: number, status: number, data1: number, data2: number, track?: number): void;
  systemExclusive(port: number, bytes: Uint8Array): void;
  /** Ends what still rings of a track, where it can be told from others. */
  silence?(track: number): void;
  /** Everything off and as it is at the start. */
  reset(): void;
}

/**
 * Plays the tracks of a song into an instrument, as far as it is told to. Tracks share the channels of
 * their port, as players of files have it. On one tick the tracks speak in their order, each in its own.
 */
export class Player {
  private readonly tracks: readonly Events[];
  private readonly ports: readonly number[];
  private readonly map: TempoMap;
  private readonly to: Instrument;
  private readonly next: Uint32Array;
  private silent: ReadonlySet<number> = new Set();
  /** Notes that sound, by track: how many of each channel and key. */
  private readonly sounding: Map<number, number>[];
  /** What was said since the last reset, but notes. */
  private told = new Told();
  /** First tick that has not been played. */
  private atTick = 0;
  /** The tick whose events are being said; undefined where what was said before is said again. */
  private saying: number | undefined;

  constructor(tracks: readonly Events[], map: TempoMap, to: Instrument) {
    this.tracks = tracks;
    this.ports = portsOf(tracks);
    this.map = map;
    this.to = to;
    this.next = new Uint32Array(tracks.length);
    this.sounding = tracks.map(() => new Map());
  }

  /**
   * Numbers of tracks whose notes are left out from now on; those of them that sound end, unless another
   * track sounds them, too.
   */
  leaveOut(tracks: ReadonlySet<number>): void {
    for (const n of tracks)
      if (!this.silent.has(n)) {
        this.endNotes(n);
        this.to.silence?.(n);
      }
    this.silent = tracks;
  }

  /**
   * Goes to a time: all notes end, and programs, controllers, bend and pressure are as they would be had it
   * been played until there.
   */
  seek(seconds: number): void {
    this.to.reset();
    this.told = new Told();
    for (const notes of this.sounding) notes.clear();
    for (const said of this.goTo(seconds)) this.tell(said);
  }

  /** Goes to a time without a break: notes end and ring on as they would, and only what differs there is said. */
  jump(seconds: number): void {
    this.endNotesOfAll();
    const there = this.goTo(seconds);
    const { reset, again } = this.told.differences(there);
    for (const { port, status, data1, data2 } of reset) this.to.message(port, status, data1, data2);
    this.told = new Told();
    for (const said of there) {
      if (again(said)) this.send(said);
      this.told.add(said);
    }
  }

  /**
   * Goes on where another player was, in the same instrument: what of its song is in force there and
   * differs in this one is said.
   */
  takeOver(before: Player, seconds: number): void {
    before.endNotesOfAll();
    this.told = before.told;
    this.jump(seconds);
  }

  /** Ends all notes; what rings on does. */
  endNotesOfAll(): void {
    for (let n = 0; n < this.tracks.length; n++) this.endNotes(n);
  }

  /** Where it goes on from a time, and what is in force there, in the order in which it was said. */
  private goTo(seconds: number): Said[] {
    this.atTick = Math.ceil(secondsToExactTicks(this.map, seconds) - 1e-6);
    const last: Remembered = new Map();
    this.tracks.forEach((events, n) => {
      let i = 0;
      for (; i < events.count && events.atTick[i]! < this.atTick; i++)
        this.remember(last, events, n, i);
      this.next[n] = i;
    });
    return [...last.values()].sort((a, b) => a.tick - b.tick).map(({ said }) => said);
  }

  /** Ends what sounds of a track, unless another track of its port sounds the same. */
  private endNotes(n: number): void {
    for (const note of this.sounding[n]!.keys()) {
      const held = this.sounding.some(
        (notes, other) => other !== n && this.ports[other] === this.ports[n] && notes.has(note),
      );
      if (!held) this.to.message(this.ports[n]!, 0x80 | (note >> 7), note & 127, 0, n);
    }
    this.sounding[n]!.clear();
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
      this.saying = earliest;
      for (let n = 0; n < this.tracks.length; n++) this.speak(n, earliest);
    }
    this.saying = undefined;
    this.atTick = Math.ceil(until);
  }

  /** The notes of a track that sound. */
  soundingOf(n: number): { readonly channel: number; readonly key: number }[] {
    return [...(this.sounding[n]?.keys() ?? [])].map((note) => ({
      channel: note >> 7,
      key: note & 127,
    }));
  }

  /** How far behind a time, in seconds, the events stand that are being said: 0 or more. */
  ahead(seconds: number): number {
    return this.saying === undefined
      ? 0
      : Math.max(0, ticksToSeconds(this.map, this.saying) - seconds);
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
      const [data1, data2] = [events.data1[i]!, events.data2[i]!];
      const kind = status >> 4;
      if (kind === 8 || kind === 9) this.sayNote(n, status, data1, data2);
      else {
        const said = this.saidAt(events, n, i);
        if (said) this.tell(said);
      }
    }
    this.next[n] = i;
  }

  private sayNote(n: number, status: number, data1: number, data2: number): void {
    const notes = this.sounding[n]!;
    const note = ((status & 15) << 7) | data1;
    const begins = status >> 4 === 9 && data2 > 0;
    // A silent track ends nothing that another one sounds.
    if (this.silent.has(n) && (begins || !notes.has(note))) return;
    const own = begins || notes.has(note);
    const count = (notes.get(note) ?? 0) + (begins ? 1 : -1);
    if (count > 0) notes.set(note, count);
    else notes.delete(note);
    // What ends no note of its own ends those of others, as it does where the channel is one.
    if (own) this.to.message(this.ports[n]!, status, data1, data2, n);
    else this.to.message(this.ports[n]!, status, data1, data2);
  }

  private tell(said: Said): void {
    this.send(said);
    this.told.add(said);
  }

  private send({ port, status, data1, data2, bytes }: Said): void {
    if (bytes) this.to.systemExclusive(port, bytes);
    else this.to.message(port, status, data1, data2);
  }

  /**
   * What an event says; undefined for a part of a system exclusive message, and for bytes of other kinds
   * that a file has escaped.
   */
  private saidAt(events: Events, n: number, i: number): Said | undefined {
    const [port, status] = [this.ports[n]!, events.status[i]!];
    if (status < 0xf0) return { port, status, data1: events.data1[i]!, data2: events.data2[i]! };
    const bytes = wholeExclusive(events, i);
    return bytes && { port, status: 0xf0, data1: 0, data2: 0, bytes };
  }

  /**
   * Keeps what has to be said again after a jump: the last of each kind, and all of what means something in
   * its order only.
   */
  private remember(last: Remembered, events: Events, n: number, i: number): void {
    const [status, tick] = [events.status[i]!, events.atTick[i]!];
    const kind = status >> 4;
    // Pressure on a key means the note there.
    if (kind < 0xb || status === META) return;
    const said = this.saidAt(events, n, i);
    if (!said || (kind === 0xb && said.data1 > 121)) return;
    const key = said.bytes || isInOrder(said) ? Symbol('said') : keyOf(said);
    const before = last.get(key);
    if (before && before.tick > tick) return;
    last.delete(key);
    last.set(key, { tick, said });
  }
}

/** What has to be said again, by what it replaces. */
type Remembered = Map<number | symbol, { readonly tick: number; readonly said: Said }>;

const endOfExclusive = 0xf7;

/**
 * A system exclusive message that is whole with an event, without its first byte (0xF0), with its last (0xF7):
 * one that comes in packets with its last
 * one, one that was escaped (0xF7 at the beginning of the event) as it is.
 */
function wholeExclusive(events: Events, i: number): Uint8Array | undefined {
  const bytes = systemExclusiveAt(events, i);
  if (bytes.at(-1) !== endOfExclusive) return undefined;
  if (events.status[i] === 0xf0) return bytes;
  if (bytes[0] === 0xf0) return bytes.subarray(1);
  const packets = [bytes];
  for (let before = i - 1; before >= 0; before--) {
    const status = events.status[before]!;
    if (status < 0xf0 || status === META) continue;
    const packet = systemExclusiveAt(events, before);
    if (packet.at(-1) === endOfExclusive) return undefined;
    packets.unshift(packet);
    if (status === 0xf0) return Uint8Array.from(packets.flatMap((p) => [...p]));
  }
  return undefined;
}

function systemExclusiveAt(events: Events, i: number): Uint8Array {
  const n = events.payload[i]!;
  return events.pool.bytes.subarray(events.pool.start[n], events.pool.end[n]);
}
