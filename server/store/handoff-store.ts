import { randomUUID } from 'node:crypto';
import type { Sequelize } from 'sequelize';
import type { Slip } from '#core/handoff/slip.ts';
import { HandoffRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';
import { noteUses, shareLock } from './keeping.ts';
import type { BlobStore } from './blob-store.ts';

/** What was handed off, with its files, for ever. */
export class HandoffStore {
  private readonly sequelize: Sequelize;
  private readonly blobs: BlobStore;

  constructor(sequelize: Sequelize, blobs: BlobStore) {
    this.sequelize = sequelize;
    this.blobs = blobs;
  }

  async add(
    from: { songId: string; revision: number; settings: Record<string, unknown> },
    made: { bytes: Uint8Array; sha256: string; slip: Slip },
  ): Promise<HandoffRecord> {
    return this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      await this.blobs.write(new Map([[made.sha256, made.bytes]]), transaction);
      await noteUses(from.songId, [made.sha256], transaction);
      return HandoffRecord.create(
        {
          id: randomUUID(),
          ...from,
          slip: made.slip,
          fileName: made.slip.file,
          fileSha256: made.sha256,
          fileBytes: made.bytes.length,
        },
        { transaction },
      );
    });
  }

  list(songId: string): Promise<HandoffRecord[]> {
    return HandoffRecord.findAll({ where: { songId }, order: [['createdAt', 'DESC']], limit: 200 });
  }

  async find(id: string): Promise<HandoffRecord> {
    const found = isId(id) ? await HandoffRecord.findByPk(id) : null;
    if (!found) throw new Refusal({ code: 'handoff-unknown', where: { id: id.slice(0, 100) } });
    return found;
  }

  async file(id: string, name: string): Promise<Uint8Array> {
    const handoff = await this.find(id);
    if (handoff.fileName !== name)
      throw new Refusal({ code: 'file-unknown', where: { id, file: name.slice(0, 200) } });
    return (await this.blobs.read([handoff.fileSha256])).get(handoff.fileSha256)!;
  }
}
