import { ok, refused, type Result } from '../problems/problems.ts';
import { bridged } from '../smf/bridges.ts';
import {
  META,
  eventAt,
  meta,
  metaEvent,
  payloadOf,
  type EventValue,
  type Events,
} from '../smf/events.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { encodeFor } from '../smf/text-encode.ts';
import { writeSmf } from '../smf/write.ts';
import { mergeEvents } from '../smf/merge.ts';
import { sentSong } from '../song/lanes.ts';
import { statedTimecode } from '../smf/own-events.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { withSentTimecode } from './sent-timecode.ts';

const ofTheMap: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.keySignature,
  meta.smpteOffset,
  meta.marker,
  meta.cuePoint,
]);

/** Two marks alike on one tick may end two sections. */
const isMark = (type: number): boolean => type === meta.marker || type === meta.cuePoint;

/**
 * The map of a song as a file of its own: tempos, meters, keys, markers, cue points, sections, timecode and length in one track, their very
 * bytes, and no music. What does not travel stays here. What many tracks state alike, as keys often are, is said once.
 */
export function mapAlone(whole: Song): Result<Uint8Array> {
  const { song } = withSentTimecode(sentSong(whole));
  const said = new Set<string>();
  const parts = song.tracks.map(({ events }) => eventsFrom(mapEvents(events, said)));
  // Markers in another encoding would be told wrong beside a name in UTF-8.
  const named = song.encoding === 'UTF-8' || /^[\x20-\x7e]*$/.test(song.title);
  const name = named ? [metaEvent(0, meta.trackName, encodeFor(song.title, song.encoding))] : [];
  const end = metaEvent(timingOf(song).endTick, meta.endOfTrack);
  const made = bridged(mergeEvents([eventsFrom(name), ...parts, eventsFrom([end])]));
  if (typeof made === 'string')
    return refused({
      code: made === 'too far' ? 'tick-too-far' : 'gap-too-long',
      where: { track: 1 },
      name: 'The map',
    });
  const { events } = made;
  return ok(
    writeSmf({
      format: 1,
      division: song.division,
      headerExtra: new Uint8Array(0),
      alienChunks: [],
      tracks: [{ events }],
    }),
  );
}

function mapEvents(events: Events, said: Set<string>): EventValue[] {
  const found: EventValue[] = [];
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] !== META || !isOfTheMap(events, i)) continue;
    const event = eventAt(events, i);
    const key = `${event.atTick} ${event.data1} ${event.payload.join()}`;
    const again = said.has(key) && !isMark(event.data1);
    said.add(key);
    if (again) continue;
    found.push(event);
  }
  return found;
}

const isOfTheMap = (events: Events, i: number): boolean =>
  ofTheMap.has(events.data1[i]!) ||
  (events.data1[i] === meta.sequencerSpecific &&
    statedTimecode(payloadOf(events, i)) !== undefined);
