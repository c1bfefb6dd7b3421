import { z } from 'zod';
import { retimeNotes } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf, within } from '../../../edit/rewrite.ts';
import type { Events } from '../../../smf/events.ts';
import { notesOf } from '../../../song/notes.ts';
import type { TickSpan } from '../../../song/scope.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { quarterTicks } from '../../../timing/meter-map.ts';
import { secondsToExactTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import { defineOperation } from '../../operation.ts';

/** Notes nearer together than this part of a quarter are one chord. */
const chordShare = 1 / 16;

export const notesStrum = defineOperation({
  id: 'notes.strum',
  version: 1,
  title: 'Strum chords',
  summary:
    'Lets the notes of a chord begin one after the other, up from the lowest or down from the highest; they end as they did.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    apart: z.int().min(1).max(500).default(15).meta({
      title: 'Apart',
      unit: 'ms',
      description: 'From one note of the chord to the next.',
    }),
    way: z.enum(['up', 'down', 'by turns']).default('up').meta({
      title: 'Way',
      description: 'Up: from the lowest to the highest.',
    }),
  }),
  apply(song, { apart, way }, scope) {
    const map = tempoMap(timingOf(song).tempos, song.division);
    const near = quarterTicks(song.division) * chordShare;
    const later = (tick: number, ms: number): number =>
      secondsToExactTicks(map, ticksToSeconds(map, tick) + ms / 1000);
    return rewriteTracks(song, scope, (events, span) => {
      const starts = new Map<number, number>();
      chordsIn(events, span, near).forEach((rows, n) => {
        const falls = way === 'down' || (way === 'by turns' && n % 2 === 1);
        const inOrder = [...rows].sort((a, b) =>
          falls ? events.data1[b]! - events.data1[a]! : events.data1[a]! - events.data1[b]!,
        );
        const begins = events.atTick[rows[0]!]!;
        inOrder.forEach((row, place) => starts.set(row, later(begins, place * apart)));
      });
      if (starts.size === 0) return { left: 'It has no chords there.' };
      return retimeNotes(events, span, (place, row) => {
        const from = starts.get(row) ?? place.from;
        return { from: Math.min(from, Math.max(place.from, place.to - 1)), to: place.to };
      });
    });
  },
  describe: ({ apart }, report) =>
    `Strummed ${counted(totalOf(report), 'note')} ${apart} ms apart ${inTracks(report)}`,
  examples: [
    { says: 'Up', settings: {} },
    { says: 'Down, wider', settings: { apart: 30, way: 'down' } },
  ],
});

/** Rows of the note-ons of each chord, two notes or more of one channel that begin together. */
function chordsIn(events: Events, span: TickSpan, near: number): number[][] {
  const notes = notesOf(events);
  const open = new Map<number, number[]>();
  const chords: number[][] = [];
  for (let n = 0; n < notes.count; n++) {
    const row = notes.on[n]!;
    if (!within(span, events, row)) continue;
    const channel = events.status[row]! & 15;
    const chord = open.get(channel);
    if (chord && events.atTick[row]! - events.atTick[chord[0]!]! <= near) chord.push(row);
    else {
      const begun = [row];
      open.set(channel, begun);
      chords.push(begun);
    }
  }
  return chords.filter((chord) => chord.length > 1);
}
