import { setsUpAnew } from '../../edit/excerpt/in-force.ts';
import { META, payloadOf, SYSEX, SYSEX_PACKET, type Events } from '../../smf/events.ts';
import { indexEvents } from '../../song/event-index.ts';
import { Channel } from './instrument.ts';

/** An event as it is heard: where it stands, and its channel counted over all ports. */
export interface HeardEvent {
  readonly track: number;
  readonly row: number;
  readonly atTick: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
  /** Port × 16 + channel; -1 of what is not on a channel. */
  readonly place: number;
}

/**
 * Goes through the events of tracks as they are heard: by tick, on one tick by track. Of each channel
 * message it is told what its channel has then, all that was said before and not itself.
 *
 * @param ports of each track, which port it plays on
 * @param silent tracks whose notes do not matter, only what else they say
 */
export function hear(
  tracks: readonly Events[],
  ports: readonly number[],
  each: (event: HeardEvent, channel: Channel | undefined) => void,
  silent: ReadonlySet<Events> = new Set(),
): void {
  const index = indexEvents(
    tracks,
    (events, row) => row < events.count - 1 && (events.status[row]! >= 0xb0 || !silent.has(events)),
  );
  const channels = new Map<number, Channel>();
  for (let n = 0; n < index.count; n++) {
    const [track, row] = [index.track[n]!, index.row[n]!];
    const events = tracks[track]!;
    const status = events.status[row]!;
    const port = ports[track]!;
    const place = status < 0xf0 ? port * 16 + (status & 15) : -1;
    if (place >= 0 && !channels.has(place)) channels.set(place, new Channel());
    const channel = channels.get(place);
    each(
      {
        track,
        row,
        atTick: events.atTick[row]!,
        status,
        data1: events.data1[row]!,
        data2: events.data2[row]!,
        place,
      },
      channel,
    );
    if (status === SYSEX && setsUpAnew(payloadOf(events, row))) {
      for (const at of channels.keys()) if (at >> 4 === port) channels.delete(at);
    } else if (status >= 0xb0) channel?.hear(status, events.data1[row]!, events.data2[row]!);
  }
}

export const isExclusive = (status: number): boolean => status === SYSEX || status === SYSEX_PACKET;
export const isMetaStatus = (status: number): boolean => status === META;
