import { z } from 'zod';
import { notesOf } from '../../../song/notes.ts';
import { dropPressure } from '../../../song/poly-pressure.ts';
import {
  counted,
  inTracks,
  rewriteTracks,
  totalOf,
  within,
  without,
} from '../../../edit/rewrite.ts';
import { keySwitchesIn } from '../../../edit/key-switches.ts';
import { defineOperation } from '../../operation.ts';

const key = z.int().min(0).max(127);
const velocity = z.int().min(1).max(127);

export const notesRemove = defineOperation({
  id: 'notes.remove',
  version: 2,
  title: 'Remove notes by pitch or velocity',
  summary:
    'Takes out the notes whose key and velocity lie within the given ranges, or all others, or what looks like key switches.',
  group: 'notes',
  scope: 'events',
  takesRows: true,
  settings: z
    .strictObject({
      lowestKey: key.default(0).meta({ title: 'Lowest key', unit: '60 is middle C', shows: 'key' }),
      highestKey: key.default(127).meta({ title: 'Highest key', shows: 'key' }),
      lowestVelocity: velocity.default(1).meta({ title: 'Lowest velocity' }),
      highestVelocity: velocity.default(127).meta({ title: 'Highest velocity' }),
      which: z.enum(['within', 'outside', 'key switches']).default('within').meta({
        title: 'Remove the notes',
        description:
          'Within the ranges, or outside them; or, whatever the ranges, the few notes at an end of the keyboard that look like key switches.',
      }),
    })
    .refine((s) => s.lowestKey <= s.highestKey, {
      message: 'a lowest key that is not above the highest',
      path: ['lowestKey'],
    })
    .refine((s) => s.lowestVelocity <= s.highestVelocity, {
      message: 'a lowest velocity that is not above the highest',
      path: ['lowestVelocity'],
    }),
  apply(song, { lowestKey, highestKey, lowestVelocity, highestVelocity, which }, scope) {
    return rewriteTracks(song, scope, (events, span) => {
      const notes = notesOf(events);
      const switches = which === 'key switches' ? keySwitchesIn(events) : undefined;
      const [lowest, highest] =
        which !== 'key switches'
          ? [lowestKey, highestKey]
          : switches
            ? [switches.lowest, switches.highest]
            : [128, -1];
      const dropped = new Uint8Array(events.count);
      let count = 0;
      for (let n = 0; n < notes.count; n++) {
        const on = notes.on[n]!;
        if (!within(span, events, on)) continue;
        const k = events.data1[on]!;
        const v = events.data2[on]!;
        const loud = which === 'key switches' || (v >= lowestVelocity && v <= highestVelocity);
        if ((k >= lowest && k <= highest && loud) === (which === 'outside')) continue;
        dropped[on] = 1;
        if (notes.off[n] !== -1) dropped[notes.off[n]!] = 1;
        count++;
      }
      dropPressure(events, notes, dropped);
      const kept = without(events, (i) => dropped[i] === 1);
      return kept
        ? { events: kept, counts: { note: count } }
        : { left: 'It has no such notes there.' };
    });
  },
  describe: (_, report) => `Removed ${counted(totalOf(report), 'note')} ${inTracks(report)}`,
  examples: [
    { says: 'Key switches below C1', settings: { highestKey: 23 } },
    { says: 'What looks like key switches', settings: { which: 'key switches' } },
    { says: 'Ghost notes', settings: { highestVelocity: 9 } },
  ],
});
