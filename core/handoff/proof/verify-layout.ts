import { payloadOf, type Events } from '../../smf/events.ts';
import type { Smf, SmfTrack } from '../../smf/smf.ts';
import type { Wanted } from '../settings.ts';
import { channelsOfTrack, outlineTrack } from './reading/track-outline.ts';
import { EventSum, isOfFile } from './reading/event-sum.ts';
import { hear } from './reading/hear.ts';

/** How tracks are laid out in a file, by the settings alone. */
export interface LayoutCase {
  /** Tracks as they leave, before they are laid out. */
  readonly tracks: readonly SmfTrack[];
  readonly laid: Smf;
  readonly wanted: Wanted;
  /** The order on a tick is that of a received file of one track. */
  readonly keepsReceivedOrder: boolean;
}

/**
 * Whether a file holds the events of the tracks it was laid out from, each as it has to read there: names of
 * tracks that become one are instrument names behind a prefix of their channel, or texts; metas of a wrong
 * length have the right one. Names the track and what is too many or too few.
 */
export function verifyLayout(of: LayoutCase): string[] {
  const { tracks, laid } = of;
  if (laid.tracks.length === tracks.length && tracks.length > 1) {
    return laid.tracks.flatMap((there, n) => compareLaid(of, [tracks[n]!], there, n));
  }
  const separate = laid.tracks.length === 2 && tracks.length > 2 ? 1 : 0;
  if (laid.tracks.length - separate !== 1)
    return [`${laid.tracks.length} tracks were made of ${tracks.length}`];
  return [
    ...(separate ? compareLaid(of, [tracks[0]!], laid.tracks[0]!, 0) : []),
    ...compareLaid(of, tracks.slice(separate), laid.tracks[separate]!, separate),
  ];
}

function compareLaid(
  of: LayoutCase,
  from: readonly SmfTrack[],
  { events }: SmfTrack,
  place: number,
): string[] {
  if (from.length === 1 && from[0]!.events === events) return [];
  const [expected, found] = [new EventSum(), new EventSum()];
  for (const [n, track] of from.entries()) addExpected(expected, track.events, n > 0, of.wanted);
  for (let row = 0; row < events.count; row++)
    if (!isOfFile(events, row)) found.addRow(events, row);
  const last = Math.max(...from.map((t) => outlineTrack(t.events).lastTick));
  const differences: string[] = [];
  if (!expected.isSame(found))
    differences.push(
      `track ${place + 1} holds ${found.events} events that are not the ${expected.events} it was made of`,
    );
  if (outlineTrack(events).lastTick !== last)
    differences.push(
      `track ${place + 1} ends at tick ${outlineTrack(events).lastTick} instead of ${last}`,
    );
  if (from.length > 1 && !of.keepsReceivedOrder && !isHeardAlike(from, events))
    differences.push(`track ${place + 1} says something on a tick in another order`);
  return differences;
}

/** One track has one port: all are heard as if they were on it. */
function isHeardAlike(from: readonly SmfTrack[], events: Events): boolean {
  const ports = from.map((t) => outlineTrack(t.events).port);
  if (new Set(ports).size > 1) return true;
  return sumHeard(from.map((t) => t.events)).isSame(sumHeard([events]));
}

const letters = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

/** Notes with what their channel has in force. */
function sumHeard(tracks: readonly Events[]): EventSum {
  const sum = new EventSum();
  const ports = tracks.map(() => 0);
  hear(tracks, ports, ({ kind, atTick, status, data1, data2 }, channel) => {
    if (kind === 'note on')
      sum.add(atTick, status, data1, data2, letters(channel!.words(() => true)));
  });
  return sum;
}

function addExpected(sum: EventSum, events: Events, isMerged: boolean, { take }: Wanted): void {
  const channel = isMerged ? firstChannel(events) : undefined;
  for (let row = 0; row < events.count; row++) {
    if (isOfFile(events, row)) continue;
    if (events.status[row] !== 0xff) {
      sum.addRow(events, row);
      continue;
    }
    const tick = events.atTick[row]!;
    const type = events.data1[row]!;
    const payload = rightLength(type, payloadOf(events, row));
    if (!payload) continue;
    if (type !== 3 || !isMerged) {
      addMeta(sum, tick, type, payload);
    } else if (channel === undefined) {
      if (take.texts) addMeta(sum, tick, 1, payload);
    } else if (take.instrumentNames) {
      if (take.ports) addMeta(sum, tick, 0x20, Uint8Array.of(channel));
      addMeta(sum, tick, 4, payload);
    }
  }
}

const addMeta = (sum: EventSum, tick: number, type: number, payload: Uint8Array): void =>
  sum.add(tick, 0xff, type, 0, payload.length === 0 ? undefined : payload);

function firstChannel(events: Events): number | undefined {
  if (channelsOfTrack(events).length === 0) return undefined;
  for (let row = 0; row < events.count; row++)
    if (events.status[row]! < 0xf0) return events.status[row]! & 15;
  return undefined;
}

/** Lengths of metas that have one (SMF 1.0; 21 by common practice), and what stands for bytes that are missing. */
const lengths: Readonly<
  Record<number, { length: number; least: number; rest: readonly number[] }>
> = {
  0x20: { length: 1, least: 1, rest: [] },
  0x21: { length: 1, least: 1, rest: [] },
  0x51: { length: 3, least: 3, rest: [] },
  0x54: { length: 5, least: 4, rest: [0, 0, 0, 0, 0] },
  0x58: { length: 4, least: 2, rest: [4, 2, 24, 8] },
  0x59: { length: 2, least: 1, rest: [0, 0] },
};

/** The payload at its right length; undefined where too little is there to say anything. */
function rightLength(type: number, payload: Uint8Array): Uint8Array | undefined {
  if (type === 0)
    return payload.length < 2
      ? payload.length === 0
        ? payload
        : undefined
      : payload.subarray(0, 2);
  const right = lengths[type];
  if (!right || payload.length === right.length) return payload;
  if (payload.length < right.least) return undefined;
  return Uint8Array.from({ length: right.length }, (_, n) => payload[n] ?? right.rest[n]!);
}
