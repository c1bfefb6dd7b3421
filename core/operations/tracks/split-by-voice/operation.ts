import { z } from 'zod';
import type { Events } from '../../../smf/events.ts';
import type { Notes } from '../../../song/notes.ts';
import { defineOperation } from '../../operation.ts';
import { splitNotes } from '../../../edit/split-notes.ts';

export const tracksSplitByVoice = defineOperation({
  id: 'tracks.split-by-voice',
  version: 1,
  title: 'Split by voice',
  summary:
    'Gives the top, the middle and the bottom notes of what sounds together tracks of their own. A line by itself is top.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    along: z.boolean().default(true).meta({ title: 'Programs and controllers go along' }),
  }),
  apply: (song, { along }, scope) =>
    splitNotes(song, scope, along, (events, notes) => ({
      partOf: voices(events, notes),
      names: ['top', 'middle', 'bottom'],
    })),
  describe: (_, { changes }) => `Split by voice: ${changes.length} parts`,
  examples: [{ says: 'Every track', settings: {} }],
});

/**
 * 0 top, 1 middle, 2 bottom of what sounds when a note begins, those that begin with it included. A note
 * that lasts on into others counts for them too.
 */
export function voices({ atTick, data1 }: Events, { count, on, off }: Notes): Uint8Array {
  const voice = new Uint8Array(count);
  // Rows are in the order of time, and so are the ends that stand in them.
  const endsAt = new Int32Array(atTick.length).fill(-1);
  for (let n = 0; n < count; n++) if (off[n] !== -1) endsAt[off[n]!] = n;
  // How many notes of each key sound; notes of no length sound for those that begin with them.
  const sounding = new Int32Array(128);
  let endNext: number[] = [];
  let row = 0;
  for (let n = 0; n < count;) {
    const tick = atTick[on[n]!]!;
    let next = n;
    while (next < count && atTick[on[next]!] === tick) next++;
    for (const key of endNext) sounding[key]!--;
    endNext = [];
    for (; row < endsAt.length && atTick[row]! <= tick; row++) {
      const ended = endsAt[row]!;
      if (ended === -1) continue;
      if (ended < n) sounding[data1[on[ended]!]!]!--;
      else endNext.push(data1[on[ended]!]!);
    }
    for (let m = n; m < next; m++) sounding[data1[on[m]!]!]!++;
    let low = 0;
    let high = 127;
    while (sounding[low] === 0) low++;
    while (sounding[high] === 0) high--;
    for (let m = n; m < next; m++)
      voice[m] = data1[on[m]!] === high ? 0 : data1[on[m]!] === low ? 2 : 1;
    n = next;
  }
  return voice;
}
