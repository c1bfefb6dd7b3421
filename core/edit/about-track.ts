import { meta } from '../smf/events.ts';

/** Metas that are about one track as a whole: where events of several come into one, it keeps its own. */
export const aboutTrack: ReadonlySet<number> = new Set([
  meta.sequenceNumber,
  meta.trackName,
  meta.instrumentName,
  meta.programName,
  meta.deviceName,
  meta.port,
]);
