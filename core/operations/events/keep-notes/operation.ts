import { z } from 'zod';
import { META, meta, timingMetas } from '../../../smf/events.ts';
import { parkedRows } from '../../../song/lanes.ts';
import { meantType } from '../../../smf/own-events.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  within,
  without,
} from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';
import { lost } from '../../../edit/event-kinds.ts';

/** What names a track or times the song is no part's playing, and stays. */
const staying: ReadonlySet<number> = new Set([
  ...timingMetas,
  meta.trackName,
  meta.instrumentName,
  meta.keySignature,
  meta.marker,
  meta.cuePoint,
  meta.copyright,
  meta.port,
  meta.channelPrefix,
  meta.sequenceNumber,
]);

export const eventsKeepNotes = defineOperation({
  id: 'events.keep-notes',
  version: 1,
  title: 'Keep only notes',
  summary:
    'Strips parts to their notes: controllers, programs, bend, pressure, system exclusive and texts go; names, tempo, meter and markers stay.',
  group: 'events',
  scope: 'events',
  settings: z.strictObject({ lyrics: z.boolean().default(true).meta({ title: 'Lyrics stay' }) }),
  apply(song, { lyrics }, scope) {
    return rewriteTracks(song, scope, (events, span, track) => {
      const isParked = parkedRows(track);
      const kept = without(events, (i) => {
        const status = events.status[i]!;
        if (!within(span, events, i) || status < 0xa0 || isParked(i)) return false;
        if (status !== META) return true;
        return !staying.has(meantType(events, i)) && !(lyrics && events.data1[i] === meta.lyric);
      });
      if (!kept) return { left: 'It holds notes only.' };
      return { events: kept, counts: lost(events, kept) };
    });
  },
  describe: (_, report) =>
    `Kept only notes ${inTracks(report)}: ${counted(totalOf(report), 'event')} removed`,
  examples: [
    { says: 'Every part down to its notes', settings: {} },
    { says: 'Without the words too', settings: { lyrics: false } },
  ],
});
