import { z } from 'zod';
import { receiverSchema } from '#core/handoff/receiver/receiver.ts';
import type { Shown } from '#core/units/shown.ts';

export const receiverViewSchema = receiverSchema.extend({
  id: z.string(),
  shipped: z.boolean().meta({
    description:
      'It comes with the product and cannot be changed; save it under a name of your own.',
  }),
});
export type ReceiverView = Shown<z.infer<typeof receiverViewSchema>>;
export const receiverListSchema = z.object({ receivers: z.array(receiverViewSchema) });

/** Which receivers a file is to hold. */
export const receiversAskedSchema = z.strictObject({
  ids: z
    .string()
    .max(8000)
    .default('')
    .meta({ description: 'Ids with commas between them; all of one’s own where it is left out.' }),
});
