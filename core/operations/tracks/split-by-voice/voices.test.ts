import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { eventsFrom } from '../../../smf/event-builder.ts';
import { note } from '../../../../tests/support/songs.ts';
import { notesOf } from '../../../song/notes.ts';
import { voices } from './operation.ts';

it('voices are told as by looking at every sounding note at every beginning', () => {
  const some = fc.array(
    fc.tuple(
      fc.integer({ min: 0, max: 40 }),
      fc.integer({ min: 0, max: 20 }),
      fc.integer({ min: 50, max: 56 }),
    ),
    { maxLength: 30 },
  );
  fc.assert(
    fc.property(some, (list) => {
      const events = eventsFrom(list.flatMap(([from, length, key]) => note(from, length, key)));
      const notes = notesOf(events);
      const told = voices(events, notes);
      const tickOf = (row: number): number => (row === -1 ? Infinity : events.atTick[row]!);
      for (let n = 0; n < notes.count; n++) {
        const tick = tickOf(notes.on[n]!);
        const keys: number[] = [];
        for (let m = 0; m < notes.count; m++) {
          const begins = tickOf(notes.on[m]!);
          if (begins === tick || (begins < tick && tickOf(notes.off[m]!) > tick))
            keys.push(events.data1[notes.on[m]!]!);
        }
        const key = events.data1[notes.on[n]!]!;
        expect(told[n]).toBe(key === Math.max(...keys) ? 0 : key === Math.min(...keys) ? 2 : 1);
      }
    }),
    { seed: 97, numRuns: scaleRuns(300) },
  );
});
