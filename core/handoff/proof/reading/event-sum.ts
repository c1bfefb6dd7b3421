import { payloadOf, type Events } from '../../../smf/events.ts';
import { kindOf } from './event-kind.ts';

/**
 * A sum over events, whatever their order, that needs no memory an event: how many there are, and two sums
 * of a 32-bit hash over all that they say.
 */
export class EventSum {
  private count = 0;
  private one = 0;
  private other = 0;

  add(tick: number, status: number, data1: number, data2: number, payload?: Uint8Array): void {
    let hash = mix(tick % 0x100000000, Math.floor(tick / 0x100000000));
    hash = mix(hash, status * 65536 + data1 * 256 + data2);
    if (payload) for (const byte of payload) hash = mix(hash, byte);
    this.count++;
    this.one = (this.one + hash) >>> 0;
    this.other = (this.other + mix(hash, 0x9e3779b9)) >>> 0;
  }

  addRow(events: Events, row: number): void {
    this.add(
      events.atTick[row]!,
      events.status[row]!,
      events.data1[row]!,
      events.data2[row]!,
      events.payload[row] === 0 ? undefined : payloadOf(events, row),
    );
  }

  get events(): number {
    return this.count;
  }

  isSame(other: EventSum): boolean {
    return this.count === other.count && this.one === other.one && this.other === other.other;
  }
}

/** A step of a 32-bit hash (FNV-like, with a multiplication and a shift). */
function mix(hash: number, value: number): number {
  const h = Math.imul(hash ^ value, 0x01000193);
  return (h ^ (h >>> 15)) >>> 0;
}

/** Ends of tracks and bridges of gaps belong to the file, not to the music. */
export const isOfFile = (events: Events, row: number): boolean => {
  if (events.status[row] !== 0xff) return false;
  const kind = kindOf(events, row);
  return kind === 'end of track' || kind === 'bridge';
};
