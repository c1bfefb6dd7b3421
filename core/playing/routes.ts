import type { Events } from '../smf/events.ts';
import { channelsPlayed } from './layers.ts';
import type { Instrument } from './player.ts';

/**
 * An instrument of two: some tracks sound outside, at a MIDI port, the others inside. What is said to a channel
 * goes to where the tracks that play on it
 * sound, which may be both.
 */
export class Routes implements Instrument {
  private readonly inside: Instrument;
  private readonly outside: Instrument;
  private readonly tracks: ReadonlySet<number>;
  /** Channels on which the one and the other are played: port * 16 + channel. */
  private readonly playedInside = new Set<number>();
  private readonly playedOutside = new Set<number>();

  constructor(inside: Instrument, outside: Instrument, { tracks, ports, sentOut }: Routed) {
    this.inside = inside;
    this.outside = outside;
    this.tracks = sentOut;
    tracks.forEach((events, n) => {
      for (const channel of channelsPlayed(events))
        (sentOut.has(n) ? this.playedOutside : this.playedInside).add(ports[n]! * 16 + channel);
    });
  }

  message(port: number, status: number, data1: number, data2: number, track?: number): void {
    if (track !== undefined)
      return (this.tracks.has(track) ? this.outside : this.inside).message(
        port,
        status,
        data1,
        data2,
        track,
      );
    const place = port * 16 + (status & 15);
    const out = this.playedOutside.has(place);
    if (out) this.outside.message(port, status, data1, data2);
    if (!out || this.playedInside.has(place)) this.inside.message(port, status, data1, data2);
  }

  systemExclusive(port: number, bytes: Uint8Array): void {
    if (this.tracks.size > 0) this.outside.systemExclusive(port, bytes);
    this.inside.systemExclusive(port, bytes);
  }

  silence(track: number): void {
    (this.tracks.has(track) ? this.outside : this.inside).silence?.(track);
  }

  reset(): void {
    this.outside.reset();
    this.inside.reset();
  }
}

interface Routed {
  readonly tracks: readonly Events[];
  readonly ports: readonly number[];
  /** Numbers of the tracks that sound outside. */
  readonly sentOut: ReadonlySet<number>;
}
