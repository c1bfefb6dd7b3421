import { z } from 'zod';
import { rowsSetting } from '../../../edit/named-rows.ts';

/** A value for all, or what is added to that of each. */
const setOrAdd = (lowest: number, highest: number, title: string) =>
  z
    .union([
      z.strictObject({ to: z.int().min(lowest).max(highest) }),
      z.strictObject({ by: z.int().min(-highest).max(highest) }),
    ])
    .optional()
    .meta({
      title,
      description: '`to` for all of them, or `by` how much more or less, within range.',
    });

export const editSeveralSettings = z.strictObject({
  rows: rowsSetting,
  channel: z.int().min(1).max(16).optional().meta({ title: 'Channel' }),
  data1: setOrAdd(0, 127, 'First data byte'),
  data2: setOrAdd(0, 127, 'Second data byte'),
  bend: z.int().min(-8192).max(8191).optional().meta({ title: 'Bend' }),
  length: setOrAdd(1, 1_000_000_000, 'Length of notes'),
  payload: z
    .array(z.int().min(0).max(255))
    .max(100_000)
    .optional()
    .meta({ title: 'Bytes', description: 'Of system exclusive and meta events.' }),
});
export type EditSeveral = z.infer<typeof editSeveralSettings>;
export type SetOrAdd = NonNullable<EditSeveral['data1']>;
