import { z } from 'zod';
import { defineOperation } from '../../operation.ts';
import { splitNotes } from '../../../edit/split-notes.ts';

export const tracksSplitByPitch = defineOperation({
  id: 'tracks.split-by-pitch',
  version: 1,
  title: 'Split by pitch',
  summary:
    'Gives the notes from a key upwards a track of their own, such as the right hand of a piano.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    key: z
      .int()
      .min(1)
      .max(127)
      .default(60)
      .meta({ title: 'Upper part from key', unit: '60 is middle C', shows: 'key' }),
    along: z.boolean().default(true).meta({ title: 'Programs and controllers go along' }),
  }),
  apply: (song, { key, along }, scope) =>
    splitNotes(song, scope, along, (events, notes) => ({
      partOf: Uint8Array.from({ length: notes.count }, (_, n) =>
        events.data1[notes.on[n]!]! >= key ? 0 : 1,
      ),
      names: ['upper', 'lower'],
    })),
  describe: ({ key }, { changes }) =>
    `Split ${changes.filter((c) => c.did === 'changed').length === 1 ? 'a track' : `${changes.filter((c) => c.did === 'changed').length} tracks`} at key ${key}`,
  examples: [{ says: 'Two hands at middle C', settings: {} }],
});
