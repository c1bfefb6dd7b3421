import { meta } from '../smf/events.ts';

/** Metas about a track or song as a whole: they stay with any part of it, and are there once. */
export const setsUp: ReadonlySet<number> = new Set([
  meta.sequenceNumber,
  meta.copyright,
  meta.trackName,
  meta.instrumentName,
  meta.channelPrefix,
  meta.port,
  meta.deviceName,
]);

/** What is said of a song or a track once, however often its bars sound: the timecode of the beginning, too. */
export const saidOnce: ReadonlySet<number> = new Set([...setsUp, meta.smpteOffset]);
