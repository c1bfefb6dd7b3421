import { z } from 'zod';
import type { Shown } from '../units/shown.ts';

const key = z.int().min(0).max(127);
const program = z.int().min(1).max(128);
const bank = z.int().min(0).max(16_383);
/** No control characters: name documents are XML, which has none. */
const shortText = z
  .string()
  .trim()
  .max(100)
  .regex(/^\P{Cc}*$/u, 'It holds a control character.');

const range = z
  .strictObject({ lowest: key, highest: key })
  .refine((r) => r.lowest <= r.highest, { message: 'The lowest key is above the highest.' });

/** How parts of it are written; the small 8 says that they sound an octave lower or higher than they look. */
export const clefs = [
  'treble',
  'treble, octave down',
  'treble, octave up',
  'alto',
  'tenor',
  'bass',
  'bass, octave down',
  'grand staff',
  'percussion',
] as const;

/** What a controller is called on this instrument; numbers of RPN and NRPN are both halves as one. */
const namedController = z.strictObject({
  kind: z.enum(['7-bit', '14-bit', 'RPN', 'NRPN']).default('7-bit'),
  number: z.int().min(0).max(16_383),
  name: shortText.min(1),
  values: z
    .array(z.strictObject({ value: z.int().min(0).max(16_383), name: shortText.min(1) }))
    .max(1_000)
    .default([])
    .meta({ description: 'What some of its values are called.' }),
});

/** Whether no two of some rows say the same. */
const noneTwice = <T>(rows: readonly T[], what: (row: T) => unknown): boolean =>
  new Set(rows.map(what)).size === rows.length;

/**
 * An instrument by what it can do. Keys are those that sound, 60 the middle C; programs and channels from
 * 1. All but the name may be left out: what is not said is not judged.
 */
export const definitionSchema = z
  .strictObject({
    name: shortText.min(1),
    maker: shortText.default('').meta({ description: 'Who makes the device it is in.' }),
    model: shortText.default('').meta({ description: 'The device it is in.' }),
    label: shortText.default('').meta({ description: 'Its number as the device shows it.' }),
    drums: z.boolean().default(false).meta({ description: 'A kit: its keys are drums.' }),
    program: program.default(1).meta({
      description: 'The General MIDI program, or of a kit its program, it is heard with.',
    }),
    sends: z
      .strictObject({ program, bank: bank.nullable().default(null) })
      .nullable()
      .default(null)
      .meta({
        description:
          'Program and bank (controllers 0 and 32 as one number) that choose it on its device; null for the program it is heard with.',
      }),
    playable: range.nullable().default(null).meta({ description: 'The keys it can sound.' }),
    comfortable: range
      .nullable()
      .default(null)
      .meta({ description: 'The keys that any good player has at ease.' }),
    voices: z
      .int()
      .min(1)
      .max(128)
      .nullable()
      .default(null)
      .meta({ description: 'How many notes it sounds at once.' }),
    transposition: z.int().min(-48).max(48).default(0).meta({
      description: 'By how many semitones it sounds from what is written: −2 for a clarinet in B♭.',
    }),
    clef: z.enum(clefs).default('treble'),
    controllers: z.array(namedController).max(1_000).default([]),
    keys: z
      .array(z.strictObject({ key, name: shortText.min(1) }))
      .max(128)
      .default([])
      .meta({ description: 'What single keys are called.' }),
    source: z
      .string()
      .trim()
      .max(500)
      .default('')
      .meta({ description: 'Where its values come from.' }),
  })
  .refine(
    ({ playable, comfortable }) =>
      !playable ||
      !comfortable ||
      (comfortable.lowest >= playable.lowest && comfortable.highest <= playable.highest),
    { path: ['comfortable'], message: 'It reaches beyond the keys that can be played.' },
  )
  .refine(({ keys }) => noneTwice(keys, (k) => k.key), {
    path: ['keys'],
    message: 'A key has two names.',
  })
  .refine(({ controllers }) => noneTwice(controllers, (c) => `${c.kind} ${c.number}`), {
    path: ['controllers'],
    message: 'A controller has two names.',
  });

export type InstrumentDefinition = Shown<z.infer<typeof definitionSchema>>;

/** More than any device has. */
export const mostInstruments = 5_000;

/** A file of definitions: `{"instruments": […]}`. */
export const definitionFileSchema = z.strictObject({
  $schema: z.string().max(500).optional(),
  instruments: z.array(definitionSchema).min(1).max(mostInstruments),
});

/** Whether two say the same; stores do not keep the order of what stands in them. */
export const sameDefinition = (
  a: InstrumentDefinition | null | undefined,
  b: InstrumentDefinition | null | undefined,
): boolean => (a && b ? inOrder(a) === inOrder(b) : !a && !b);

const inOrder = (definition: InstrumentDefinition): string =>
  JSON.stringify(definitionSchema.parse(definition));
