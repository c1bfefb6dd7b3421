import { z } from 'zod';
import { percussionChannel } from '../../../instruments/general-midi.ts';
import { keyWords } from '../../../song/event-words.ts';
import { defineOperation } from '../../operation.ts';
import { splitNotes } from '../../../edit/split-notes.ts';

export const tracksSplitByDrum = defineOperation({
  id: 'tracks.split-by-drum',
  version: 1,
  title: 'Split by drum key',
  summary:
    'Gives each key of the drum channel a track of its own, named after its drum, the lowest staying where it is.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    along: z.boolean().default(true).meta({ title: 'Programs and controllers go along' }),
  }),
  apply: (song, { along }, scope) =>
    splitNotes(song, scope, along, (events, notes) => {
      for (let n = 0; n < notes.count; n++)
        if ((events.status[notes.on[n]!]! & 15) !== percussionChannel)
          return 'It has notes outside the drum channel (10).';
      return {
        partOf: Uint8Array.from({ length: notes.count }, (_, n) => events.data1[notes.on[n]!]!),
        names: Array.from({ length: 128 }, (_, key) => keyWords(key, percussionChannel, 4)),
      };
    }),
  describe: (_, { changes }) => `Split drums by key: ${changes.length} tracks`,
  examples: [{ says: 'Every drum track', settings: {} }],
});
