import { z } from 'zod';
import type { Events } from '../../../smf/events.ts';
import { notesOf, type Notes } from '../../../song/notes.ts';
import { defineOperation } from '../../operation.ts';
import { ok } from '../../../problems/problems.ts';
import { leftShort } from '../../../edit/left-short.ts';
import { markRows, rowsFault, rowsSetting } from '../../../edit/named-rows.ts';
import { noteTicks, sortedByTick, type NewTicks } from '../../../edit/retime.ts';
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
    let short = 0;
    const made = rewriteTracks(song, { tracks: Object.keys(rows) }, (events, _, track) => {
      const marked = markRows(events, rows[track.id]!);
      const notes = notesOf(events);
      const chosen = new Set<number>();
      for (let n = 0; n < notes.count; n++)
        if (marked[notes.on[n]!] === 1 || (notes.off[n] !== -1 && marked[notes.off[n]!] === 1))
          chosen.add(notes.on[n]!);
      const many = chosen.size;
      const { atTick, rank } = movedTicks(events, notes, chosen, { by, lengthen });
      const left = many - chosen.size;
      short += left;
      const data1 = events.data1.slice();
      const data2 = events.data2.slice();
      let [outside, touched] = [0, 0];
      for (let n = 0; n < notes.count; n++) {
        const [on, off] = [notes.on[n]!, notes.off[n]!];
        if (!chosen.has(on)) continue;
        const isMoved =
          atTick[on] !== events.atTick[on] || (off !== -1 && atTick[off] !== events.atTick[off]);
        const key = data1[on]! + keys;
        const stays = key < 0 || key > 127;
        if (stays) outside++;
        const velocity = stays ? data2[on]! : Math.min(127, Math.max(1, data2[on]! + louder));
        if (isMoved || (!stays && keys !== 0) || velocity !== data2[on]) touched++;
        data2[on] = velocity;
        if (stays) continue;
        data1[on] = key;
        if (off !== -1) data1[off] = key;
      }
      if (touched === 0) return { left: explainLeft(outside, left) };
      return {
        events: sortedByTick({ ...events, data1, data2 }, atTick, rank),
        counts: { note: touched },
        ...(outside > 0
          ? { detail: `${counted(outside, 'note')} would leave the keyboard and kept the key` }
          : {}),
      };
    });
    if (!made.ok || short === 0) return made;
    const told = [
      `${counted(short, 'note')} stayed unchanged, to keep every note longer than a tick.`,
    ];
    return ok({ ...made.value, report: { ...made.value.report, told } });
  },
  describe: (_, report) => `Moved ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    {
      says: 'The first note of a track a semitone up',
      settings: { rows: { t1: [[0, 0]] }, keys: 1 },
    },
  ],
});

const explainLeft = (outside: number, short: number): string =>
  outside > 0
    ? 'The notes would leave the keyboard.'
    : short > 0
      ? 'Every note must stay longer than a tick.'
      : 'Its notes are there already.';

/** A note that stays may block the next: after so many passes all notes of its key stay. */
const maxPasses = 8;
const slotOf = ({ status, data1 }: Events, on: number): number =>
  ((status[on]! & 15) << 7) | data1[on]!;

/**
 * New ticks of the chosen notes. Those that would leave a note no length, or a tick, stay where they are: they
 * are taken out of `chosen`.
 */
function movedTicks(
  events: Events,
  notes: Notes,
  chosen: Set<number>,
  { by, lengthen }: { by: number; lengthen: number },
): NewTicks {
  for (let pass = 1; ; pass++) {
    const moved = noteTicks(events, { from: 0, to: Infinity }, ({ from, to }, on) => {
      if (!chosen.has(on)) return { from, to };
      const start = Math.max(0, from + by);
      return { from: start, to: start + to - from + lengthen };
    });
    const faults = leftShort(events, notes, moved.atTick, (on) => chosen.has(on));
    if (faults.length === 0) return moved;
    for (const on of faults) chosen.delete(on);
    if (pass < maxPasses) continue;
    const keys = new Set(faults.map((on) => slotOf(events, on)));
    for (const on of chosen) if (keys.has(slotOf(events, on))) chosen.delete(on);
  }
}
