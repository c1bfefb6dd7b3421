import { isMeta, meta, type Events } from '../smf/events.ts';

/** The port of every track: what its first events say, else the first. */
export const portsOf = (tracks: readonly Events[]): number[] => tracks.map(portOf);

function portOf(events: Events): number {
  for (let i = 0; i < events.count && i < 64; i++)
    if (isMeta(events, i, meta.port))
      return events.pool.bytes[events.pool.start[events.payload[i]!]!] ?? 0;
  return 0;
}
