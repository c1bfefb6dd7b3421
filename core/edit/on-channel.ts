import { withPayloads } from '../smf/event-builder.ts';
import { isMeta, meta, payloadOf, type Events } from '../smf/events.ts';

/** Every channel message on one channel, and the channel prefixes with them. */
export function onChannel(events: Events, channel: number): { events: Events; count: number } {
  const status = events.status.slice();
  let count = 0;
  for (let i = 0; i < events.count; i++) {
    if (status[i]! >= 0xf0 || (status[i]! & 15) === channel) continue;
    status[i] = (status[i]! & 0xf0) | channel;
    count++;
  }
  const prefixes: number[] = [];
  for (let i = 0; i < events.count; i++)
    if (isMeta(events, i, meta.channelPrefix) && payloadOf(events, i)[0] !== channel)
      prefixes.push(i);
  return { events: withPayloads({ ...events, status }, prefixes, Uint8Array.of(channel)), count };
}
