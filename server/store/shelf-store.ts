import { randomUUID } from 'node:crypto';
import {
  QueryTypes,
  UniqueConstraintError,
  type CreationAttributes,
  type Sequelize,
} from 'sequelize';
import type { ClipOrder, ClipQuery } from '#contracts/shelf.ts';
import type { ClipFacts } from '#core/shelf/facts.ts';
import { ClipRecord } from '../db/models.ts';
import { Refusal } from '../refusal.ts';
import { isId } from './ids.ts';

/** A clip that is to lie on the shelf: a file that is kept, and what is known of it. */
export interface NewClip {
  readonly sha256: string;
  readonly part: number;
  readonly folder: string;
  readonly name: string;
  readonly facts: ClipFacts;
  readonly tags: readonly string[];
}

const columns: Readonly<Record<ClipOrder, string>> = {
  name: 'lower(name)',
  folder: 'lower(folder)',
  kind: 'kind',
  bars: 'bars',
  meter: 'meter',
  bpm: 'bpm',
  notes: 'notes',
  newest: 'added_at',
};

/** What a search may hold that LIKE would take for something else. */
const literally = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** Clips in folders. A folder is there as long as clips lie in it. */
export class ShelfStore {
  private readonly sequelize: Sequelize;

  constructor(sequelize: Sequelize) {
    this.sequelize = sequelize;
  }

  /** One page of what is looked for, and how many there are: found, sorted and counted by the database. */
  async list(query: ClipQuery): Promise<{ clips: ClipRecord[]; total: number }> {
    const { where, replacements } = narrowed(query);
    const down = query.descending === 'true' ? 'DESC' : 'ASC';
    const [clips, [counted]] = await Promise.all([
      this.sequelize.query<ClipRecord>(
        `SELECT * FROM shelf_clips WHERE ${where} ORDER BY ${columns[query.sort]} ${down}, lower(name), id LIMIT :limit OFFSET :from`,
        { replacements, model: ClipRecord, mapToModel: true },
      ),
      this.sequelize.query<{ total: number }>(
        `SELECT count(*)::int AS total FROM shelf_clips WHERE ${where}`,
        { replacements, type: QueryTypes.SELECT },
      ),
    ]);
    return { clips, total: counted?.total ?? 0 };
  }

  /** All that lie in a folder and within it. */
  async all(folder: string): Promise<ClipRecord[]> {
    const { where, replacements } = narrowed({ folder, search: '' });
    return this.sequelize.query<ClipRecord>(
      `SELECT * FROM shelf_clips WHERE ${where} ORDER BY lower(folder), lower(name), id`,
      { replacements, model: ClipRecord, mapToModel: true },
    );
  }

  async meters(): Promise<string[]> {
    const rows = await this.sequelize.query<{ meter: string }>(
      'SELECT DISTINCT meter FROM shelf_clips WHERE removed_at IS NULL ORDER BY meter',
      { type: QueryTypes.SELECT },
    );
    return rows.map((r) => r.meter);
  }

  /** Those that lie there already, by what they hold, stay as they are; a name that is taken gets a number. */
  async add(clips: readonly NewClip[]): Promise<{ added: ClipRecord[]; twins: number }> {
    const added: ClipRecord[] = [];
    for (const { sha256, part, folder, name, facts, tags } of clips) {
      const there = await ClipRecord.findOne({ where: { sha256, part, folder } });
      if (there && there.removedAt === null) continue;
      const { kind, ...known } = facts;
      const record = there
        ? await there.update({ removedAt: null })
        : await created({
            id: randomUUID(),
            ...{ sha256, part, folder, name: await this.freeName(folder, name) },
            ...{ tags, kind, ...known, addedAt: new Date(), removedAt: null },
          });
      // Somebody else put it there in the meantime.
      if (record) added.push(record);
    }
    return { added, twins: clips.length - added.length };
  }

  async change(
    id: string,
    change: Partial<Pick<ClipRecord, 'name' | 'folder' | 'tags' | 'kind'>>,
  ): Promise<ClipRecord> {
    const record = await this.find(id);
    if (change.folder !== undefined && change.folder !== record.folder) {
      const twin = await ClipRecord.findOne({
        where: { sha256: record.sha256, part: record.part, folder: change.folder },
      });
      if (twin?.removedAt === null)
        throw new Refusal({ code: 'clip-twin', where: { id }, name: twin.name });
      // One that was taken off there makes room.
      await twin?.destroy();
    }
    return record.update(change);
  }

  async find(id: string, removed = false): Promise<ClipRecord> {
    const record = isId(id) ? await ClipRecord.findByPk(id) : null;
    if (!record || (record.removedAt !== null && !removed))
      throw new Refusal({ code: 'clip-unknown', where: { id: id.slice(0, 100) } });
    return record;
  }

  /** Clips that are removed are kept, and can be brought back. */
  async setRemoved(id: string, removed: boolean): Promise<ClipRecord> {
    return (await this.find(id, !removed)).update({ removedAt: removed ? new Date() : null });
  }

  folders(): Promise<{ path: string; clips: number }[]> {
    return this.sequelize.query<{ path: string; clips: number }>(
      `SELECT folder AS path, count(*)::int AS clips FROM shelf_clips WHERE removed_at IS NULL AND folder <> '' GROUP BY folder ORDER BY lower(folder)`,
      { type: QueryTypes.SELECT },
    );
  }

  /**
   * Has a folder, with all within it, lie elsewhere or be called otherwise. What lies there already stays
   * where it is: nothing is lost.
   */
  async moveFolder(from: string, to: string): Promise<void> {
    if (to === from) return;
    if (to.startsWith(`${from}/`))
      throw new Refusal({ code: 'folder-into-itself', where: { field: 'to' }, from, to });
    const within = `${literally(from)}/%`;
    await this.sequelize.query(
      `DELETE FROM shelf_clips t WHERE t.removed_at IS NOT NULL AND (t.folder = :to OR t.folder LIKE :there)`,
      { replacements: { to, there: `${literally(to)}/%` } },
    );
    await this.sequelize.query(
      `UPDATE shelf_clips c SET folder = :to || substr(folder, length(:from) + 1)
       WHERE (folder = :from OR folder LIKE :within) AND NOT EXISTS (
         SELECT FROM shelf_clips t WHERE t.sha256 = c.sha256 AND t.part = c.part AND t.folder = :to || substr(c.folder, length(:from) + 1))`,
      { replacements: { from, to, within } },
    );
  }

  private async freeName(folder: string, name: string): Promise<string> {
    const taken = await ClipRecord.count({ where: { folder, name, removedAt: null } });
    if (taken === 0) return name;
    for (let n = 2; ; n++) {
      const next = `${name} ${n}`;
      if ((await ClipRecord.count({ where: { folder, name: next, removedAt: null } })) === 0)
        return next;
    }
  }
}

/** A new row; undefined where the same lies there already. */
async function created(row: CreationAttributes<ClipRecord>): Promise<ClipRecord | undefined> {
  try {
    return await ClipRecord.create(row);
  } catch (error) {
    if (error instanceof UniqueConstraintError) return undefined;
    throw error;
  }
}

/** The condition of a query, and what stands for its places. */
function narrowed(query: Partial<ClipQuery>): {
  where: string;
  replacements: Record<string, unknown>;
} {
  const { search = '', folder, kind, meter, slowest, fastest, fewestBars, mostBars, drums } = query;
  const words = search
    .split(/\s+/)
    .filter((w) => w !== '')
    .slice(0, 12);
  const parts = [
    'removed_at IS NULL',
    // Each word stands in the name, the folder or a tag.
    ...words.map((_, n) => `(name || ' ' || folder || ' ' || tags::text) ILIKE :word${n}`),
    folder ? '(folder = :folder OR folder LIKE :within)' : undefined,
    kind && 'kind = :kind',
    meter && 'meter = :meter',
    slowest !== undefined && 'bpm >= :slowest',
    fastest !== undefined && 'bpm <= :fastest',
    fewestBars !== undefined && 'bars >= :fewestBars',
    mostBars !== undefined && 'bars <= :mostBars',
    drums && 'drums = :drums',
  ].filter(Boolean);
  return {
    where: parts.join(' AND '),
    replacements: {
      ...query,
      drums: drums === 'true',
      within: `${literally(folder ?? '')}/%`,
      ...Object.fromEntries(words.map((word, n) => [`word${n}`, `%${literally(word)}%`])),
    },
  };
}
