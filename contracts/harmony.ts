import { z } from 'zod';
import type { Shown } from '#core/units/shown.ts';

const tick = z.int().min(0);
const bar = z.int().min(1);
const sure = z.number().min(0).max(1).meta({ description: 'How sure, 0 to 1.' });
const others = z
  .array(z.object({ name: z.string(), sure }))
  .meta({ description: 'What else it may be, best first.' });

/** Bars, both included; all where none are named. */
export const barsQuerySchema = z.strictObject({
  from: z.coerce.number().int().min(1).max(1_000_000_000).optional(),
  to: z.coerce.number().int().min(1).max(1_000_000_000).optional(),
});

export const chordsSchema = z.object({
  revision: z.int(),
  chords: z
    .array(
      z.object({
        atTick: tick,
        toTick: tick,
        bar,
        name: z.string().meta({ description: 'As it is typed: F#m7b5, C/E.' }),
        notes: z.array(z.string()).meta({ description: 'Its notes from the root up.' }),
        sure,
        others,
      }),
    )
    .meta({ description: 'Told from all that sounds and is no drum, in the order of time.' }),
});
export type ChordsView = Shown<z.infer<typeof chordsSchema>>;
export type ToldChordView = ChordsView['chords'][number];

export const keysSchema = z.object({
  revision: z.int(),
  keys: z
    .array(
      z.object({
        fromTick: tick,
        toTick: tick,
        fromBar: bar,
        toBar: bar.meta({ description: 'The last bar, included.' }),
        section: z.string().optional(),
        name: z.string().meta({ description: 'D minor' }),
        sharps: z.int().min(-7).max(7),
        minor: z.boolean(),
        sure,
        others,
        outside: z
          .array(z.object({ note: z.string(), count: z.int().min(1) }))
          .meta({ description: 'Notes that are not of the key, and how often they sound.' }),
      }),
    )
    .meta({ description: 'Of each section, or from one change of key to the next.' }),
});
export type KeysView = Shown<z.infer<typeof keysSchema>>;
export type ToldKeyView = KeysView['keys'][number];
