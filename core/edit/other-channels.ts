import { withPayloads } from '../smf/event-builder.ts';
import { isMeta, meta, payloadOf, type Events } from '../smf/events.ts';
import { laneKey, parseLaneKey } from '../song/lanes.ts';
import { withEvents, withParked, type Track } from '../song/song.ts';

/** Channels, as stored, by those they take the place of; no two by the same. */
export type OtherChannels = ReadonlyMap<number, number>;

/**
 * The track with its messages, channel prefixes and parked lanes on other channels; the same object where
 * none of it changes.
 */
export function onOtherChannels(track: Track, channels: OtherChannels): Track {
  const events = moved(track.events, channels);
  const parked = track.parked?.map((key) => {
    const { channel, what } = parseLaneKey(key);
    return laneKey(channels.get(channel) ?? channel, what);
  });
  if (events === track.events) return track;
  return parked ? withParked(withEvents(track, events), parked.sort()) : withEvents(track, events);
}

function moved(events: Events, channels: OtherChannels): Events {
  const status = events.status.slice();
  const prefixes = new Map<number, number[]>();
  let changed = false;
  for (let i = 0; i < events.count; i++) {
    const prefix = isMeta(events, i, meta.channelPrefix);
    if (status[i]! >= 0xf0 && !prefix) continue;
    const channel = prefix ? (payloadOf(events, i)[0] ?? -1) : status[i]! & 15;
    const to = channels.get(channel) ?? channel;
    if (to === channel) continue;
    changed = true;
    if (prefix) prefixes.set(to, [...(prefixes.get(to) ?? []), i]);
    else status[i] = (status[i]! & 0xf0) | to;
  }
  if (!changed) return events;
  let said: Events = { ...events, status };
  for (const [to, rows] of prefixes) said = withPayloads(said, rows, Uint8Array.of(to));
  return said;
}
