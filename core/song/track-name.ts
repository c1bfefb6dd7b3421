import { META, meta, metaEvent, payloadOf } from '../smf/events.ts';
import { sameBytes } from '../smf/chunks.ts';
import { withInserted, withPayload } from '../smf/event-builder.ts';
import type { TextEncodingName } from '../smf/text.ts';
import { encodeFor } from '../smf/text-encode.ts';
import { nameIndex, withEvents, type Track } from './song.ts';

/**
 * The track with this name, in the song's encoding where that can hold it, else in UTF-8; the same object
 * where it already has it. Everything else stays in place.
 */
export function withTrackName(track: Track, name: string, encoding: TextEncodingName): Track {
  const { events } = track;
  const bytes = encodeFor(name, encoding);
  const at = nameIndex(events);
  if (at === -1)
    return withEvents(
      track,
      withInserted(events, afterSequenceNumber(track), metaEvent(0, meta.trackName, bytes)),
    );
  if (sameBytes(payloadOf(events, at), bytes)) return track;
  return withEvents(track, withPayload(events, at, bytes));
}

/** A sequence number must stand before everything else (SMF 1.0). */
function afterSequenceNumber({ events }: Track): number {
  return events.count > 1 &&
    events.status[0] === META &&
    events.data1[0] === meta.sequenceNumber &&
    events.atTick[0] === 0
    ? 1
    : 0;
}
