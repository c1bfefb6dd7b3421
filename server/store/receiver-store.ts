import { randomUUID } from 'node:crypto';
import { shippedReceivers } from '#core/handoff/receiver/shipped.ts';
import type { Receiver } from '#core/handoff/receiver/receiver.ts';
import { ReceiverRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';

/** A receiver with its id. */
export interface KnownReceiver {
  readonly id: string;
  readonly receiver: Receiver;
}

/** Receivers of one's own. Those that are shipped are read-only and stand in the core. */
export class ReceiverStore {
  async list(): Promise<ReceiverRecord[]> {
    return ReceiverRecord.findAll({
      where: { removedAt: null },
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
    });
  }

  /** All of them, or none. */
  async add(receivers: readonly Receiver[]): Promise<ReceiverRecord[]> {
    return ReceiverRecord.bulkCreate(
      receivers.map((receiver) => ({
        id: randomUUID(),
        name: receiver.name,
        receiver,
        removedAt: null,
      })),
    );
  }

  async change(id: string, receiver: Receiver): Promise<ReceiverRecord> {
    const record = await this.own(id);
    return record.update({ name: receiver.name, receiver });
  }

  /** Receivers that are removed are kept, and can be restored. */
  async setRemoved(id: string, removed: boolean): Promise<ReceiverRecord> {
    const record = await this.own(id, !removed);
    return record.update({ removedAt: removed ? new Date() : null });
  }

  /** One's own or a shipped one. */
  async find(id: string): Promise<KnownReceiver> {
    const shipped = shippedReceivers.find((r) => r.id === id);
    if (shipped) {
      const { id: own, ...receiver } = shipped;
      return { id: own, receiver };
    }
    const record = await this.own(id);
    return { id: record.id, receiver: record.receiver };
  }

  private async own(id: string, removed = false): Promise<ReceiverRecord> {
    if (shippedReceivers.some((r) => r.id === id))
      throw new Refusal({ code: 'receiver-shipped', where: { id } });
    const record = isId(id) ? await ReceiverRecord.findByPk(id) : null;
    if (!record || (record.removedAt !== null && !removed))
      throw new Refusal({ code: 'receiver-unknown', where: { id: id.slice(0, 100) } });
    return record;
  }
}
