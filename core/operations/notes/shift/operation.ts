import { z } from 'zod';
import { notesOf } from '../../../song/notes.ts';
import { defineOperation } from '../../operation.ts';
import { markRows, rowsFault, rowsSetting } from '../../../edit/named-rows.ts';
import { noteTicks, sortedByTick } from '../../../edit/retime.ts';
import { counted, inTracks, rewriteTracks, totalOf } from '../../../edit/rewrite.ts';

const ticks = z.int().min(-1_000_000_000).max(1_000_000_000).default(0);

export const notesShift = defineOperation({
  id: 'notes.shift',
  version: 1,
  title: 'Move notes',
  summary: 'Moves single notes in time or pitch, makes them longer or shorter, louder or softer.',
  group: 'notes',
  scope: 'song',
  settings: z.strictObject({
    rows: rowsSetting,
    ticks: ticks.meta({ title: 'Later by', unit: 'ticks' }),
    keys: z.int().min(-127).max(127).default(0).meta({ title: 'Higher by', unit: 'semitones' }),
    lengthen: ticks.meta({ title: 'Longer by', unit: 'ticks' }),
    louder: z.int().min(-126).max(126).default(0).meta({ title: 'Louder by' }),
  }),
  byHand: true,
  apply(song, { rows, ticks: by, keys, lengthen, louder }) {
    const fault = rowsFault(song, rows);
    if (fault) return fault;
    return rewriteTracks(song, { tracks: Object.keys(rows) }, (events, _, track) => {
      const marked = markRows(events, rows[track.id]!);
      const notes = notesOf(events);
      const chosen = (n: number): boolean =>
        marked[notes.on[n]!] === 1 || (notes.off[n] !== -1 && marked[notes.off[n]!] === 1);
      const data1 = events.data1.slice();
      const data2 = events.data2.slice();
      const touched = new Set<number>();
      let outside = 0;
      for (let n = 0; n < notes.count; n++) {
        if (!chosen(n)) continue;
        const on = notes.on[n]!;
        const key = data1[on]! + keys;
        if (key < 0 || key > 127) {
          outside++;
          continue;
        }
        const velocity = Math.min(127, Math.max(1, data2[on]! + louder));
        if (key !== data1[on] || velocity !== data2[on]) touched.add(on);
        data1[on] = key;
        if (notes.off[n] !== -1) data1[notes.off[n]!] = key;
        data2[on] = velocity;
      }
      const isChosen = new Set(
        Array.from({ length: notes.count }, (_, n) => n)
          .filter(chosen)
          .map((n) => notes.on[n]!),
      );
      const { atTick, rank } = noteTicks(events, { from: 0, to: Infinity }, ({ from, to }, on) => {
        if (!isChosen.has(on)) return { from, to };
        const moved = {
          from: Math.max(0, from + by),
          to: Math.max(0, from + by) + to - from + lengthen,
        };
        if (moved.from !== from || moved.to !== to) touched.add(on);
        return moved;
      });
      const detail =
        outside > 0
          ? { detail: `${counted(outside, 'note')} would leave the keyboard and kept the key` }
          : {};
      if (touched.size === 0)
        return {
          left: outside > 0 ? 'They would leave the keyboard.' : 'Its notes are there already.',
        };
      return {
        events: sortedByTick({ ...events, data1, data2 }, atTick, rank),
        counts: { note: touched.size },
        ...detail,
      };
    });
  },
  describe: (_, report) => `Moved ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    {
      says: 'The first note of a track a semitone up',
      settings: { rows: { t1: [[0, 0]] }, keys: 1 },
    },
  ],
});
