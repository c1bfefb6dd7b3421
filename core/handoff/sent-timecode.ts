import { eventsFrom, pickEvents } from '../smf/event-builder.ts';
import { isMeta, meta, payloadOf, type Events } from '../smf/events.ts';
import { mergeEvents } from '../smf/merge.ts';
import { statedTimecode } from '../smf/own-events.ts';
import { withEvents, type Song } from '../song/song.ts';
import { framesAt, offsetEvent } from '../timing/start-timecode.ts';
import { tempoMap } from '../timing/tempo-map.ts';
import { timecodeText } from '../timing/timecode.ts';
import { timingOf } from '../song/timing-of.ts';

/**
 * A timecode that an event of our own states is also said as SMPTE offset, for others, where that has the
 * frame rate; else it is told. The offset belongs to the very beginning: it is counted back over the tempo
 * map from the bar whose timecode is known.
 */
export function withSentTimecode(song: Song): { song: Song; notes: string[] } {
  const { timecode, tempos } = timingOf(song);
  if (!timecode || !song.tracks.some((t) => statesTimecode(t.events))) return { song, notes: [] };
  const start = framesAt(timecode, tempoMap(tempos, song.division), 0);
  const offset = offsetEvent(timecode.rate, start);
  if (!offset)
    return {
      song,
      notes: [
        `The timecode ${timecodeText(timecode.frames, timecode.rate)} at ${timecode.rate} frames a second is in the file for this program alone: an SMPTE offset knows 24, 25, 29.97 drop and 30.`,
      ],
    };
  const tracks = song.tracks.map((track, index) => {
    const rows = Array.from({ length: track.events.count }, (_, i) => i).filter(
      (i) => !isMeta(track.events, i, meta.smpteOffset),
    );
    const events =
      rows.length === track.events.count ? track.events : pickEvents(track.events, rows);
    if (index > 0 && events === track.events) return track;
    return withEvents(track, index === 0 ? mergeEvents([eventsFrom([offset]), events]) : events);
  });
  return { song: { ...song, tracks }, notes: [] };
}

function statesTimecode(events: Events): boolean {
  for (let i = 0; i < events.count; i++)
    if (isMeta(events, i, meta.sequencerSpecific) && statedTimecode(payloadOf(events, i)))
      return true;
  return false;
}
