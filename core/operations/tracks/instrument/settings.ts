import { z } from 'zod';
import { definitionSchema } from '../../../instruments/definition.ts';
import { trackIdSetting } from '../../../edit/named-rows.ts';

const program = z.int().min(1).max(128);

export const instrumentSettings = z.strictObject({
  program: program.default(1).meta({
    title: 'Program',
    description: 'General MIDI program 1–128; of drums, the kit.',
    offers: 'program',
  }),
  drums: z.boolean().default(false).meta({
    title: 'Drums',
    description: 'On channel 10, where keys are drums.',
  }),
  bank: z.int().min(0).max(16_383).nullable().default(null).meta({
    title: 'Bank',
    description: 'Controllers 0 and 32 as one number. Empty: none is said.',
  }),
  definition: definitionSchema.nullable().default(null).meta({
    title: 'By a definition',
    description:
      'An instrument by what it can do, in the place of program, drums and bank. The song keeps a copy of it.',
    offers: 'definition',
  }),
  shared: z
    .enum(['a channel of its own', 'all on the channel', 'left alone'])
    .default('a channel of its own')
    .meta({
      title: 'Where others play on the channel',
      description:
        'Own: the part moves to a free channel, and nothing else sounds different. All: whatever plays there plays with it. Left alone: it stays as it is.',
    }),
  channel: z.int().min(1).max(16).nullable().default(null).meta({
    title: 'Of parts on several channels',
    description: 'The channel that is meant. Empty: such parts stay as they are.',
  }),
  settle: z.boolean().default(false).meta({
    title: 'Park what was written for the sound before',
    description: 'Filters, envelopes and sends are kept, but not played and not sent.',
  }),
  octaves: z.boolean().default(false).meta({
    title: 'By octaves into its range',
    description:
      'The whole part moves by the octaves that bring the most of its notes to where the instrument has them. Not within bars, and not of drums.',
  }),
  named: z.boolean().default(false).meta({
    title: 'Name parts that have no name',
    description: 'After what plays them.',
  }),
  each: z
    .array(z.strictObject({ track: trackIdSetting, program, drums: z.boolean().default(false) }))
    .max(70_000)
    .default([])
    .meta({
      title: 'By track',
      description:
        'What plays each of some tracks, in the place of one for all. Tracks that are not named stay as they are.',
      offers: 'onto',
    }),
  beside: z.boolean().default(false).meta({
    title: 'As a second track',
    description: 'The part stays as it is; a copy beside it plays with this.',
  }),
});
export type InstrumentSettings = z.infer<typeof instrumentSettings>;
