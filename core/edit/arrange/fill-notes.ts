import { channelEvent, type EventValue } from '../../smf/events.ts';
import { notesOf } from '../../song/notes.ts';
import { channelsOf, type Song, type Track } from '../../song/song.ts';
import { barTick } from '../../timing/meter-map.ts';
import { landingInBars, landingInSeconds } from '../landing.ts';
import { barsOf } from './laid-out.ts';

/**
 * The notes of a clip as a track plays them in bars of a song: those that begin within so many of its first
 * bars, on the track's channel, none longer than the bars.
 */
export function fillNotes(
  song: Song,
  track: Track,
  clip: Song,
  { from, to }: { from: number; to: number },
): EventValue[] {
  const { map } = barsOf(song);
  const [begins, ends] = [barTick(map, from), barTick(map, to)];
  const landing = landingInBars(song, clip, begins) ?? landingInSeconds(song, clip, begins);
  const channel = channelsOf(track.events)[0];
  const played: EventValue[] = [];
  for (const { events } of clip.tracks) {
    const notes = notesOf(events);
    for (let n = 0; n < notes.count; n++) {
      const [on, off] = [notes.on[n]!, notes.off[n]!];
      const tick = Math.round(landing(events.atTick[on]!));
      if (tick >= ends) continue;
      const until = off === -1 ? ends : Math.round(landing(events.atTick[off]!));
      const its = channel ?? events.status[on]! & 15;
      played.push(
        channelEvent(tick, 0x90 | its, events.data1[on]!, events.data2[on]!),
        channelEvent(Math.max(tick + 1, Math.min(until, ends)), 0x80 | its, events.data1[on]!, 64),
      );
    }
  }
  return played.sort((a, b) => a.atTick - b.atTick || (a.status >> 4) - (b.status >> 4));
}
