import { z } from 'zod';
import { movesSchema, reportSchema } from '#core/operations/report-schema.ts';
import { scopeSchema } from '#core/song/scope.ts';
import { trackSchema } from './songs.ts';
import type { Shown } from '#core/units/shown.ts';

export const stepRequestSchema = z.strictObject({
  operation: z.string().max(100).meta({ description: 'Id of an operation, see /api/operations.' }),
  version: z.int().min(1).optional().meta({
    description:
      'Of the operation, for which the settings were made; its newest where it is left out.',
  }),
  settings: z.record(z.string(), z.unknown()).default({}),
  scope: scopeSchema.default({ tracks: 'all' }),
  revision: z
    .int()
    .min(0)
    .meta({ description: 'The revision you looked at; another head is refused with 409.' }),
  preview: z
    .boolean()
    .default(false)
    .meta({ description: 'Say what the step would do, keep nothing.' }),
});

export const stepResultSchema = z.object({
  revision: z.int().meta({
    description: 'The head after the step; unchanged where it was a preview or changed nothing.',
  }),
  changed: z.boolean(),
  preview: z.boolean(),
  described: z.string(),
  report: reportSchema,
  moves: movesSchema.optional(),
  after: z.array(trackSchema).optional().meta({
    description: 'With a preview: the tracks it would change, as they would be (the first twenty).',
  }),
});
export type StepResultView = Shown<z.infer<typeof stepResultSchema>>;

export const stepSchema = z.object({
  revision: z.int(),
  parent: z.int(),
  operation: z.string(),
  version: z.int(),
  settings: z.record(z.string(), z.unknown()),
  scope: scopeSchema,
  described: z.string(),
  report: reportSchema,
  at: z.iso.datetime(),
  state: z
    .enum(['in force', 'undone', 'set aside'])
    .meta({ description: 'Set aside: undone, and another step was taken since.' }),
});
export type StepView = Shown<z.infer<typeof stepSchema>>;
export const stepListSchema = z.object({ head: z.int(), steps: z.array(stepSchema) });

export const moveSchema = z.strictObject({
  revision: z.int().min(0).optional().meta({ description: 'The head you looked at.' }),
});
export const goSchema = moveSchema.extend({
  to: z.int().min(0).meta({ description: 'A revision of the history; 0 is the song as received.' }),
});
export const stepBarsSchema = z.object({
  bars: z
    .array(z.object({ from: z.int(), to: z.int() }))
    .meta({ description: 'Bars, first and last, in which the step changed something.' }),
  tracks: z.array(z.string()).meta({ description: 'Ids of the tracks it changed something of.' }),
});
export const movedSchema = z.object({
  revision: z.int(),
  described: z.string(),
  moves: movesSchema.optional(),
});
export type MovedView = Shown<z.infer<typeof movedSchema>>;

export const operationSchema = z.object({
  id: z.string(),
  version: z.int(),
  title: z.string(),
  summary: z.string(),
  group: z.string(),
  scope: z.string(),
  takesRows: z
    .boolean()
    .meta({ description: 'It works on events chosen by hand, too: `scope.rows`.' }),
  byHand: z.boolean().meta({
    description: 'It names rows or ticks of one revision: no form and no recipe can hold it.',
  }),
  settings: z.record(z.string(), z.unknown()).meta({ description: 'JSON Schema of the settings.' }),
  examples: z.array(
    z.object({
      says: z.string(),
      settings: z.record(z.string(), z.unknown()),
      scope: scopeSchema.optional(),
    }),
  ),
});
export type OperationView = Shown<z.infer<typeof operationSchema>>;
export const operationListSchema = z.object({ operations: z.array(operationSchema) });
