import { META, meta, type Events } from '../../smf/events.ts';

const onlyNames: ReadonlySet<number> = new Set([meta.trackName, meta.instrumentName, meta.endOfTrack, meta.channelPrefix, meta.port]);

/** Nothing but a name: no message, no text, no timing. */
export const isEmpty = (events: Events): boolean => events.status.every((s, i) => s === META && onlyNames.has(events.data1[i]!));
