import { z } from 'zod';
import type { Events } from '../../smf/events.ts';
import { notesOf } from '../../song/notes.ts';
import { counted, inTracks, isEnd, rewriteTracks, totalOf, within, without } from '../rewrite.ts';
import { defineOperation } from '../operation.ts';

export const notesTranspose = defineOperation({
  id: 'notes.transpose',
  version: 1,
  title: 'Transpose',
  summary: 'Moves notes up or down by semitones. Notes that would leave the keyboard are folded back by octaves, or left out.',
  group: 'notes',
  scope: 'events',
  settings: z.strictObject({
    semitones: z.int().min(-127).max(127).default(0).meta({ title: 'Semitones', description: '12 is an octave up.' }),
    outside: z.enum(['fold', 'drop']).default('fold').meta({ title: 'Notes outside 0 to 127' }),
    drums: z.boolean().default(false).meta({ title: 'The drum channel too', description: 'On channel 10 keys are instruments, not pitches.' }),
  }),
  apply(song, { semitones, outside, drums }, scope) {
    return rewriteTracks(song, scope, (events, span) => {
      const notes = notesOf(events);
      const data1 = events.data1.slice();
      const dropped = new Set<number>();
      let moved = 0;
      let folded = 0;
      for (let n = 0; n < notes.count; n++) {
        const on = notes.on[n]!;
        if (!within(span, events.atTick[on]!) || (!drums && (events.status[on]! & 15) === 9) || semitones === 0) continue;
        const wanted = data1[on]! + semitones;
        const key = folding(wanted);
        if (key === data1[on] && outside === 'fold') continue;
        const rows = notes.off[n] === -1 ? [on] : [on, notes.off[n]!];
        if (key !== wanted && outside === 'drop') rows.forEach((row) => dropped.add(row));
        else for (const row of rows) data1[row] = key;
        if (key !== wanted) folded++;
        else moved++;
      }
      movePressure(events, data1, (i) => within(span, events.atTick[i]!) && (drums || (events.status[i]! & 15) !== 9), semitones);
      if (moved + folded === 0) return { left: 'It has no notes to move there.' };
      const changed = { ...events, data1 };
      const kept = dropped.size > 0 ? (without(changed, (i) => !isEnd(changed, i) && dropped.has(i)) ?? changed) : changed;
      return { events: kept, counts: { note: moved + folded }, ...(folded > 0 ? { detail: `${counted(folded, 'note')} ${outside === 'fold' ? 'folded back' : 'left out'}` } : {}) };
    });
  },
  describe: ({ semitones }, report) => `Transposed ${counted(totalOf(report), 'note')} ${inTracks(report)} by ${semitones > 0 ? '+' : '−'}${Math.abs(semitones)}`,
  examples: [{ says: 'An octave down', settings: { semitones: -12 } }],
});

/** Poly pressure goes with the notes of its key. */
function movePressure({ status, count }: Events, data1: Uint8Array, meant: (index: number) => boolean, semitones: number): void {
  for (let i = 0; i < count; i++) if (status[i]! >> 4 === 0xa && meant(i)) data1[i] = folding(data1[i]! + semitones);
}

/** The key brought into 0–127 by whole octaves. */
function folding(key: number): number {
  while (key < 0) key += 12;
  while (key > 127) key -= 12;
  return key;
}
