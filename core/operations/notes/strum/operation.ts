import { z } from 'zod';
import { keySwitchesOf } from '../../../instruments/key-switches.ts';
import { noteValues, valueTicks } from '../../../edit/note-values.ts';
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
  version: 2,
  title: 'Strum chords',
  summary:
    'Lets the notes of a chord begin one after the other, up from the lowest or down from the highest, or all with the first of them; they end as they did.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    way: z.enum(['up', 'down', 'by turns', 'together']).default('up').meta({
      title: 'Way',
      description: 'Up: from the lowest to the highest. Together: all begin with the first.',
    }),
    apart: z.int().min(1).max(500).default(15).meta({
      title: 'Apart',
      unit: 'ms',
      description: 'From one note of the chord to the next.',
    }),
    by: z
      .enum(['ms', ...noteValues])
      .default('ms')
      .meta({
        title: 'Counted in',
        description: 'A note value goes with the tempo, and takes the place of the milliseconds.',
      }),
    near: z.int().min(1).max(500).nullable().default(null).meta({
      title: 'One chord within',
      unit: 'ms',
      description: 'Notes that begin within it are one chord. Empty: a sixty-fourth note.',
    }),
  }),
  upgrade: (settings) => ({ ...settings }),
  apply(song, { apart, way, by, near: within }, scope) {
    const map = tempoMap(timingOf(song).tempos, song.division);
    const inMs = (tick: number, ms: number): number =>
      secondsToExactTicks(map, ticksToSeconds(map, tick) + ms / 1000);
    const near = (tick: number): number =>
      within === null ? quarterTicks(song.division) * chordShare : inMs(tick, within) - tick;
    const step = by === 'ms' ? 0 : valueTicks(by, 'straight', song.division);
    const later = (tick: number, places: number): number =>
      by === 'ms' ? inMs(tick, places * apart) : tick + places * step;
    return rewriteTracks(song, scope, (events, span, { instrument }) => {
      const starts = new Map<number, number>();
      chordsIn(events, span, near, keySwitchesOf(instrument)).forEach((rows, n) => {
        const falls = way === 'down' || (way === 'by turns' && n % 2 === 1);
        // Notes of one key are one string.
        const keys = [...new Set(rows.map((row) => events.data1[row]!))].sort((a, b) =>
          falls ? b - a : a - b,
        );
        const begins = events.atTick[rows[0]!]!;
        for (const row of rows) {
          const place = way === 'together' ? 0 : keys.indexOf(events.data1[row]!);
          starts.set(row, place === 0 ? begins : later(begins, place));
        }
      });
      if (starts.size === 0) return { left: 'It has no chords there.' };
      return retimeNotes(events, span, (place, row) => {
        const from = starts.get(row) ?? place.from;
        return { from: Math.min(from, Math.max(place.from, place.to - 1)), to: place.to };
      });
    });
  },
  describe: ({ apart, by, way }, report) =>
    way === 'together'
      ? `Let ${counted(totalOf(report), 'note')} begin with their chords ${inTracks(report)}`
      : `Strummed ${counted(totalOf(report), 'note')} ${by === 'ms' ? `${apart} ms` : by} apart ${inTracks(report)}`,
  examples: [
    { says: 'Up', settings: {} },
    { says: 'Down, wider', settings: { apart: 30, way: 'down' } },
    { says: 'By thirty-seconds', settings: { by: '1/32' } },
    { says: 'All with the first, within 60 ms', settings: { way: 'together', near: 60 } },
  ],
});

/** Rows of the note-ons of each chord, two notes or more of one channel that begin together. */
function chordsIn(
  events: Events,
  span: TickSpan,
  near: (tick: number) => number,
  switches: ReadonlySet<number>,
): number[][] {
  const notes = notesOf(events);
  const open = new Map<number, number[]>();
  const chords: number[][] = [];
  for (let n = 0; n < notes.count; n++) {
    const row = notes.on[n]!;
    if (!within(span, events, row) || switches.has(events.data1[row]!)) continue;
    const channel = events.status[row]! & 15;
    const chord = open.get(channel);
    const first = chord && events.atTick[chord[0]!]!;
    if (chord && first !== undefined && events.atTick[row]! - first <= near(first)) chord.push(row);
    else {
      const begun = [row];
      open.set(channel, begun);
      chords.push(begun);
    }
  }
  return chords.filter((chord) => chord.length > 1);
}
