import { META, meta, payloadOf, type Events } from '../smf/events.ts';
import { pickEvents } from '../smf/event-builder.ts';
import { mergeEvents } from '../smf/merge.ts';
import { channelsOf, type Track } from './song.ts';

/** What says which device a track plays: wherever a part of it gets a track of its own, they go along. */
export const namesDevice = (events: Events, i: number): boolean =>
  events.status[i] === META &&
  (events.data1[i] === meta.port || events.data1[i] === meta.deviceName);

/** Events taken out of a whole, with what says which device the whole plays. Both end on one tick. */
export function onDeviceOf(whole: Events, part: Events): Events {
  const rows: number[] = [];
  for (let i = 0; i < whole.count; i++) if (namesDevice(whole, i)) rows.push(i);
  return rows.length === 0
    ? part
    : mergeEvents([pickEvents(whole, [...rows, whole.count - 1]), part]);
}

/**
 * The port that a track plays on: what its first port meta says (RP-019 calls such metas obsolete; many
 * files have them), else the first.
 */
export function portOf(events: Events): number {
  for (let i = 0; i < events.count; i++)
    if (events.status[i] === META && events.data1[i] === meta.port)
      return payloadOf(events, i)[0] ?? 0;
  return 0;
}

/**
 * Channels (0–15) on which tracks of several ports play, each an instrument of its own as long as the ports
 * are told apart.
 */
export const channelsOfSeveralPorts = (tracks: readonly Track[]): number[] =>
  channelsOnSeveralPorts(
    tracks.map(({ events }) => ({ port: portOf(events), channels: channelsOf(events) })),
  );

/** The same of tracks of which only port and channels are known. */
export function channelsOnSeveralPorts(
  tracks: readonly { readonly port: number; readonly channels: readonly number[] }[],
): number[] {
  const portsOn = new Map<number, Set<number>>();
  for (const { port, channels } of tracks)
    for (const channel of channels)
      portsOn.set(channel, (portsOn.get(channel) ?? new Set()).add(port));
  return [...portsOn]
    .filter(([, ports]) => ports.size > 1)
    .map(([channel]) => channel)
    .sort((a, b) => a - b);
}

/** What becomes of them where ports are no longer told apart, with the remedy; undefined where nothing does. */
export function portWords(tracks: readonly Track[]): string | undefined {
  const channels = channelsOfSeveralPorts(tracks).map((c) => c + 1);
  if (channels.length === 0) return undefined;
  const which =
    channels.length === 1 ? `channel ${channels[0]}` : `channels ${channels.join(', ')}`;
  return `on ${which} tracks of several ports play one instrument now, and each program of one is heard on the others: give the tracks channels of their own first (Set channels)`;
}
