import { z } from 'zod';
import { meterMap } from '../../../timing/meter-map.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { notesOf } from '../../../song/notes.ts';
import { nearestLine } from '../../../edit/nearest-line.ts';
import { feels, noteValues, valueTicks } from '../../../edit/note-values.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  within,
  without,
} from '../../../edit/rewrite.ts';
import { defineOperation } from '../../operation.ts';

export const notesPulse = defineOperation({
  id: 'notes.pulse',
  version: 1,
  title: 'Thin notes to a pulse',
  summary:
    'Keeps, for each pulse of a grid that begins anew with every bar, the note or chord nearest to it, and leaves the others out.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z.strictObject({
    grid: z.enum(noteValues).default('1/4').meta({ title: 'Pulse' }),
    feel: z.enum(feels).default('straight').meta({ title: 'Feel' }),
  }),
  apply(song, { grid, feel }, scope) {
    const map = meterMap(timingOf(song).meters, song.division);
    const step = valueTicks(grid, feel, song.division);
    return rewriteTracks(song, scope, (events, span) => {
      const notes = notesOf(events);
      // Nearest beginning of a note to each pulse; of two equally near the earlier.
      const nearest = new Map<number, number>();
      for (let n = 0; n < notes.count; n++) {
        const tick = events.atTick[notes.on[n]!]!;
        if (!within(span, events, notes.on[n]!)) continue;
        const pulse = Math.round(nearestLine(map, tick, step, 50));
        const had = nearest.get(pulse);
        if (had === undefined || Math.abs(tick - pulse) < Math.abs(had - pulse))
          nearest.set(pulse, tick);
      }
      const kept = new Set(nearest.values());
      const dropped = new Uint8Array(events.count);
      let count = 0;
      for (let n = 0; n < notes.count; n++) {
        const on = notes.on[n]!;
        if (!within(span, events, on) || kept.has(events.atTick[on]!)) continue;
        dropped[on] = 1;
        if (notes.off[n] !== -1) dropped[notes.off[n]!] = 1;
        count++;
      }
      const left = without(events, (i) => dropped[i] === 1);
      return left
        ? { events: left, counts: { note: count } }
        : { left: 'No two of its notes share a pulse.' };
    });
  },
  describe: ({ grid }, report) =>
    `Thinned to a pulse of ${grid}: ${counted(totalOf(report), 'note')} left out ${inTracks(report)}`,
  examples: [{ says: 'One note or chord a quarter', settings: {} }],
});
