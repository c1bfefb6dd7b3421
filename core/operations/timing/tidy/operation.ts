import { z } from 'zod';
import { isTiming, repeats } from '../../../edit/timing-events.ts';
import { ok } from '../../../problems/problems.ts';
import { eventsFrom, pickEvents } from '../../../smf/event-builder.ts';
import { eventAt, type EventValue } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { trackLabel, withEvents, type Track } from '../../../song/song.ts';
import { defineOperation, emptyReport, type Change } from '../../operation.ts';

export const timingTidy = defineOperation({
  id: 'timing.tidy',
  version: 1,
  title: 'Tidy the tempo map',
  summary:
    'Brings tempo, meter and SMPTE offset events into the first track, and leaves out those that state again what is in force.',
  group: 'timing',
  scope: 'song',
  settings: z.strictObject({}),
  apply(song) {
    const changes: Change[] = [];
    const gathered: EventValue[] = [];
    const others = song.tracks.slice(1).map((track): Track => {
      const rows: number[] = [];
      const taken: EventValue[] = [];
      for (let i = 0; i < track.events.count; i++) {
        if (isTiming(track.events, i)) taken.push(eventAt(track.events, i));
        else rows.push(i);
      }
      if (taken.length === 0) return track;
      gathered.push(...taken);
      changes.push({
        track: track.id,
        name: trackLabel(song, track),
        did: 'changed',
        counts: { 'timing event': taken.length },
        detail: 'moved to the first track',
      });
      return withEvents(track, pickEvents(track.events, rows));
    });
    const first = song.tracks[0]!;
    const merged =
      gathered.length === 0 ? first.events : mergeEvents([first.events, eventsFrom(gathered)]);
    const repeated = repeats(merged);
    if (repeated.size > 0)
      changes.push({
        track: first.id,
        name: trackLabel(song, first),
        did: 'changed',
        counts: { 'timing event': repeated.size },
        detail: 'stated again what was in force',
      });
    else if (gathered.length > 0)
      changes.push({
        track: first.id,
        name: trackLabel(song, first),
        did: 'changed',
        counts: {},
        detail: 'took them in',
      });
    if (changes.length === 0) return ok({ song, report: emptyReport });
    const kept =
      repeated.size === 0
        ? merged
        : pickEvents(
            merged,
            Array.from({ length: merged.count }, (_, i) => i).filter((i) => !repeated.has(i)),
          );
    const tracks = [kept === first.events ? first : withEvents(first, kept), ...others];
    return ok({ song: { ...song, tracks }, report: { changes, skipped: [] } });
  },
  describe: (_, { changes }) =>
    `Tidied the tempo map: ${changes
      .filter((c) => c.counts['timing event'])
      .map((c) => `${c.counts['timing event']} ${c.detail}`)
      .join(', ')}`,
  examples: [{ says: 'The whole song', settings: {} }],
});
