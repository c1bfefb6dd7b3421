import { randomUUID } from 'node:crypto';
import { alongInstruments } from '#core/instruments/along/along.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { InstrumentRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';

/**
 * Instruments of one's own. Those that come along are read-only and stand in the core; songs keep copies,
 * so what is done here changes none.
 */
export class InstrumentStore {
  async list(): Promise<InstrumentRecord[]> {
    return InstrumentRecord.findAll({
      where: { removedAt: null },
      order: [
        ['name', 'ASC'],
        ['id', 'ASC'],
      ],
    });
  }

  /** All of them, or none. */
  async add(definitions: readonly InstrumentDefinition[]): Promise<InstrumentRecord[]> {
    return InstrumentRecord.bulkCreate(
      definitions.map((definition) => ({
        id: randomUUID(),
        name: definition.name,
        definition,
        removedAt: null,
      })),
    );
  }

  async change(id: string, definition: InstrumentDefinition): Promise<InstrumentRecord> {
    const record = await this.find(id);
    return record.update({ name: definition.name, definition });
  }

  /** Instruments that are removed are kept, and can be restored. */
  async setRemoved(id: string, removed: boolean): Promise<InstrumentRecord> {
    const record = await this.find(id, !removed);
    return record.update({ removedAt: removed ? new Date() : null });
  }

  private async find(id: string, removed = false): Promise<InstrumentRecord> {
    if (alongInstruments.some((a) => a.id === id))
      throw new Refusal({ code: 'instrument-along', where: { id } });
    const record = isId(id) ? await InstrumentRecord.findByPk(id) : null;
    if (!record || (record.removedAt !== null && !removed)) throw unknownInstrument(id);
    return record;
  }
}

export const unknownInstrument = (id: string): Refusal =>
  new Refusal({ code: 'instrument-unknown', where: { id: id.slice(0, 100) } });
