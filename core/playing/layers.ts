import type { Events } from '../smf/events.ts';
import type { Instrument } from './player.ts';

/**
 * More tracks than this on one channel share channels again; so do all where a song has so many parts that every
 * channel more is heard as a break.
 */
const mostLayers = 8;
const mostParts = 24;
/** Channel 10 of a port: the drums. */
const drums = 9;

/** Sixteen channels of a synthesizer that can have any number of them. */
export interface Sixteen {
  message(status: number, data1: number, data2: number): void;
  systemExclusive(bytes: Uint8Array): void;
}

/**
 * A synthesizer in which tracks that share a MIDI channel sound on channels of their own, so that one of them
 * can fall silent while what the
 * others play rings on. What is said to a channel is said to each of its layers: all that a program or a
 * controller does, it does to all tracks of the
 * channel, as on a device. Drums stay together: an open hi-hat is choked by a closed one, whichever track plays it.
 */
export class Layers implements Instrument {
  /** Layer of each track on each channel: track * 16 + channel. */
  private readonly layerOf = new Map<number, number>();
  /** How many layers a channel has: port * 16 + channel. */
  private readonly counts = new Map<number, number>();
  /** Channels that a track has for itself alone. */
  private readonly alone = new Map<number, { block: Sixteen; channel: number }[]>();
  private readonly blocks = new Map<number, Sixteen[]>();
  private readonly block: (n: number) => Sixteen;
  private readonly afresh: () => void;
  private made = 0;

  /** `block` makes the nth sixteen channels; `afresh` has them all as they are at the start. */
  constructor(
    tracks: readonly Events[],
    ports: readonly number[],
    block: (n: number) => Sixteen,
    afresh: () => void,
  ) {
    this.block = block;
    this.afresh = afresh;
    for (const port of new Set(ports)) this.blocksOf(port, 1);
    const users = tracksByChannel(tracks, ports);
    const most = new Set([...users.values()].flat()).size > mostParts ? 1 : mostLayers;
    for (const [place, on] of users) {
      const channel = place % 16;
      const count = channel === drums ? 1 : Math.min(most, on.length);
      this.counts.set(place, count);
      const blocks = this.blocksOf(place >> 4, count);
      on.forEach((n, i) => {
        this.layerOf.set(n * 16 + channel, i % count);
        if (i >= count || i + count < on.length) return;
        const channels = this.alone.get(n) ?? [];
        this.alone.set(n, [...channels, { block: blocks[i % count]!, channel }]);
      });
    }
  }

  private blocksOf(port: number, count: number): Sixteen[] {
    const blocks = this.blocks.get(port) ?? [];
    while (blocks.length < count) blocks.push(this.block(this.made++));
    this.blocks.set(port, blocks);
    return blocks;
  }

  message(port: number, status: number, data1: number, data2: number, track?: number): void {
    const place = port * 16 + (status & 15);
    const count = this.counts.get(place) ?? 1;
    const blocks = this.blocksOf(port, count);
    if (track === undefined)
      for (let n = 0; n < count; n++) blocks[n]!.message(status, data1, data2);
    else {
      const layer = this.layerOf.get(track * 16 + (status & 15)) ?? 0;
      blocks[layer]!.message(status, data1, data2);
    }
  }

  systemExclusive(port: number, bytes: Uint8Array): void {
    for (const block of this.blocksOf(port, 1)) block.systemExclusive(bytes);
  }

  /** All sound off on the channels that the track has for itself. */
  silence(track: number): void {
    for (const { block, channel } of this.alone.get(track) ?? [])
      block.message(0xb0 | channel, 120, 0);
  }

  /** What is the same where two songs have their tracks on the same channels of the synthesizer. */
  get shape(): string {
    return JSON.stringify([[...this.layerOf], [...this.counts]]);
  }

  reset(): void {
    this.afresh();
  }
}

/** Which tracks play notes on each channel: port * 16 + channel. */
function tracksByChannel(
  tracks: readonly Events[],
  ports: readonly number[],
): Map<number, number[]> {
  const found = new Map<number, number[]>();
  tracks.forEach((events, n) => {
    for (const channel of channelsPlayed(events)) {
      const place = ports[n]! * 16 + channel;
      const before = found.get(place);
      if (before) before.push(n);
      else found.set(place, [n]);
    }
  });
  return found;
}

/** Channels on which notes are played. */
export function channelsPlayed({ status, count }: Events): number[] {
  let found = 0;
  for (let i = 0; i < count; i++) if (status[i]! >> 4 === 9) found |= 1 << (status[i]! & 15);
  return Array.from({ length: 16 }, (_, n) => n).filter((n) => found & (1 << n));
}
