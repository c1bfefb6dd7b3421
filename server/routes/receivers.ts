import { receiverFileVersion, type Receiver } from '#core/handoff/receiver/receiver.ts';
import { shippedReceivers } from '#core/handoff/receiver/shipped.ts';
import type { ReceiverView } from '#contracts/receivers.ts';
import type { Handlers } from '../answering.ts';
import type { ReceiverRecord } from '../db/models.ts';
import type { Services } from '../services.ts';

type ReceiverHandlers = Pick<
  Handlers,
  | 'listReceivers'
  | 'addReceiver'
  | 'addReceivers'
  | 'getReceivers'
  | 'changeReceiver'
  | 'removeReceiver'
  | 'restoreReceiver'
>;

const view = ({ id, receiver }: ReceiverRecord): ReceiverView => ({
  ...receiver,
  id,
  shipped: false,
});

/** Who handoffs are for: those that come with the product, and one's own. */
export function receiverHandlers({ receivers }: Services): ReceiverHandlers {
  return {
    async listReceivers() {
      const own = await receivers.list();
      return {
        receivers: [...own.map(view), ...shippedReceivers.map((r) => ({ ...r, shipped: true }))],
      };
    },

    addReceiver: async ({ body }) => view((await receivers.add([body]))[0]!),

    addReceivers: async ({ body }) => ({
      receivers: (await receivers.add(body.receivers)).map(view),
    }),

    async getReceivers({ query: { ids }, response }) {
      const asked = ids.split(',').filter(Boolean);
      const found: Receiver[] =
        asked.length > 0
          ? await Promise.all(asked.map(async (id) => (await receivers.find(id)).receiver))
          : (await receivers.list()).map((r) => r.receiver);
      response.attachment(`${found.length === 1 ? fileName(found[0]!.name) : 'receivers'}.json`);
      return { version: receiverFileVersion, receivers: found };
    },

    changeReceiver: async ({ params, body }) => view(await receivers.change(params.id, body)),

    async removeReceiver({ params }) {
      await receivers.setRemoved(params.id, true);
    },

    restoreReceiver: async ({ params }) => view(await receivers.setRemoved(params.id, false)),
  };
}

/** A name as a file has it, without what systems refuse. */
const fileName = (name: string): string =>
  name.replace(/[\\/:*?"<>|\p{Cc}]/gu, ' ').trim() || 'receiver';
