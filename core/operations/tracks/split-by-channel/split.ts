import { pickEvents } from '../../../smf/event-builder.ts';
import { META, meta, payloadOf, type Events } from '../../../smf/events.ts';
import { meantType } from '../../../smf/own-events.ts';

/**
 * The events of no channel first, then those of each channel in the order of their numbers; every part ends
 * where the whole did. Meta events behind a channel prefix go with its channel, until the next channel
 * message (SMF 1.0). One part only (the whole) where no more than one channel is used.
 */
export function splitByChannel(events: Events): Events[] {
  const rows: number[][] = Array.from({ length: 17 }, () => []);
  const last = events.count - 1;
  let prefix = -1;
  for (let i = 0; i < last; i++) {
    const status = events.status[i]!;
    if (status < 0xf0) prefix = -1;
    else if (status === META && events.data1[i] === meta.channelPrefix)
      prefix = (payloadOf(events, i)[0] ?? 0x7f) < 16 ? payloadOf(events, i)[0]! : -1;
    const part =
      status < 0xf0
        ? status & 0x0f
        : status === META && belongsToPart(meantType(events, i))
          ? prefix
          : -1;
    rows[part + 1]!.push(i);
  }
  const playing = rows.slice(1).filter((own) => own.some((i) => events.status[i]! < 0xf0));
  if (playing.length < 2) return [events];
  // A prefix may name a channel that plays nothing: what it says stays with the song's own events, in order.
  const silent = rows
    .slice(1)
    .filter((own) => !playing.includes(own))
    .flat();
  const own = silent.length === 0 ? rows[0]! : [...rows[0]!, ...silent].sort((a, b) => a - b);
  return [own, ...playing].map((part) => pickEvents(events, [...part, last]));
}

/** Tempo, meter, key, SMPTE offset and marks are the song's, whatever prefix stands before them. */
const songOwn: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.smpteOffset,
  meta.keySignature,
  meta.marker,
  meta.cuePoint,
  meta.sequenceNumber,
  meta.copyright,
]);
const belongsToPart = (type: number): boolean => !songOwn.has(type);
