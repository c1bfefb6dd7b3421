import { randomUUID } from 'node:crypto';
import type { Sequelize, Transaction } from 'sequelize';
import type { HandoffFile, HandoffView } from '#contracts/handoffs.ts';
import type { Slip } from '#core/handoff/slip.ts';
import { HandoffRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import type { Spool } from '../spool.ts';
import { isId } from './ids.ts';
import { noteUses, shareLock } from './keeping.ts';
import type { BlobStore } from './blob-store.ts';

/** What is kept of a handoff. */
export interface MadeHandoff {
  readonly songId: string;
  readonly revision: number;
  readonly settings: Record<string, unknown>;
  readonly slips: readonly Slip[];
  readonly notes: readonly string[];
  readonly receiver?: HandoffView['receiver'];
}

/** Files that are written at a time. */
const atOnce = 100;

/** What was handed off, with its files, for ever. */
export class HandoffStore {
  private readonly sequelize: Sequelize;
  private readonly blobs: BlobStore;

  constructor(sequelize: Sequelize, blobs: BlobStore) {
    this.sequelize = sequelize;
    this.blobs = blobs;
  }

  /** Keeps a handoff with all its files, or nothing of it. */
  async add({ slips, ...made }: MadeHandoff, spool: Spool): Promise<HandoffRecord> {
    return this.sequelize.transaction(async (transaction) => {
      await shareLock(this.sequelize, transaction);
      await this.keep(made.songId, spool, transaction);
      const [first] = slips;
      return HandoffRecord.create(
        {
          id: randomUUID(),
          ...made,
          slip: first!,
          slips,
          files: slips.map(listed),
          fileName: first!.file,
          fileSha256: first!.sha256,
          fileBytes: first!.bytes,
        },
        { transaction },
      );
    });
  }

  private async keep(songId: string, spool: Spool, transaction: Transaction): Promise<void> {
    let some = new Map<string, Uint8Array>();
    const write = async (): Promise<void> => {
      await this.blobs.write(some, transaction);
      await noteUses(songId, some.keys(), transaction);
      some = new Map();
    };
    for await (const { name, bytes } of spool.all()) {
      some.set(name, bytes);
      if (some.size === atOnce) await write();
    }
    await write();
  }

  /** Without the slips of all files, which may be many. */
  list(songId: string): Promise<HandoffRecord[]> {
    return HandoffRecord.findAll({
      where: { songId },
      attributes: { exclude: ['slips'] },
      order: [['createdAt', 'DESC']],
      limit: 200,
    });
  }

  async find(id: string): Promise<HandoffRecord> {
    const found = isId(id) ? await HandoffRecord.findByPk(id) : null;
    if (!found) throw new Refusal({ code: 'handoff-unknown', where: { id: id.slice(0, 100) } });
    return found;
  }

  async file(id: string, name: string): Promise<Uint8Array> {
    const file = filesOf(await this.find(id)).find((f) => f.name === name);
    if (!file) throw new Refusal({ code: 'file-unknown', where: { id, file: name.slice(0, 200) } });
    return this.bytes(file);
  }

  async bytes({ sha256 }: Pick<HandoffFile, 'sha256'>): Promise<Uint8Array> {
    return (await this.blobs.read([sha256])).get(sha256)!;
  }
}

/** What is listed of a file. */
export const listed = ({ file, bytes, sha256, extent, notes }: Slip): HandoffFile => ({
  name: file,
  bytes,
  sha256,
  ...(extent ? { extent } : {}),
  notes,
});

export const filesOf = (handoff: HandoffRecord): readonly HandoffFile[] =>
  handoff.files ?? [listed(handoff.slip)];

export const slipsOf = (handoff: HandoffRecord): readonly Slip[] => handoff.slips ?? [handoff.slip];
