import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { BlobUse } from '../db/models.ts';

/**
 * Who needs which blob. Writing names the blobs a song uses, under a lock that many share; purging takes the lock alone,
 * so that no blob goes between being found and being named.
 */
const purgeLock = 5_417_231;

export async function shareLock(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  await sequelize.query('SELECT pg_advisory_xact_lock_shared(:purgeLock)', { replacements: { purgeLock }, transaction });
}

/** Notes that a song needs blobs; those it is known to need stay. */
export async function noteUses(songId: string, hashes: Iterable<string>, transaction: Transaction): Promise<void> {
  const rows = [...new Set(hashes)].sort().map((sha256) => ({ songId, sha256 }));
  for (let at = 0; at < rows.length; at += 1000) await BlobUse.bulkCreate(rows.slice(at, at + 1000), { ignoreDuplicates: true, transaction, returning: false });
}

const dayMs = 86_400_000;

/** When a song that was removed is purged; null where that never happens. */
export const purgeAt = (removedAt: Date, keepDays: number): Date | null => (keepDays > 0 ? new Date(removedAt.getTime() + keepDays * dayMs) : null);

/** Purges songs that somebody removed and that were kept long enough, with what nothing else needs. Gives how many. */
export async function purge(sequelize: Sequelize, keepDays: number, now: Date): Promise<number> {
  if (keepDays <= 0) return 0;
  const before = new Date(now.getTime() - keepDays * dayMs);
  let purged = 0;
  while (await purgeOne(sequelize, before)) purged++;
  return purged;
}

/** One song in one transaction: whole, or not at all. */
function purgeOne(sequelize: Sequelize, before: Date): Promise<boolean> {
  return sequelize.transaction(async (transaction) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(:purgeLock)', { replacements: { purgeLock }, transaction });
    const run = <T extends object>(sql: string, replacements: Record<string, unknown>): Promise<T[]> => sequelize.query<T>(sql, { replacements, transaction, type: QueryTypes.SELECT });
    const [song] = await run<{ id: string; original: string }>('SELECT id, original FROM songs WHERE removed_at < :before ORDER BY removed_at LIMIT 1 FOR UPDATE', { before });
    if (!song) return false;
    const uses = await run<{ sha256: string }>('DELETE FROM blob_uses WHERE song_id = :id RETURNING sha256', song);
    for (const table of ['left_alone', 'handoffs', 'steps', 'revisions']) await run(`DELETE FROM ${table} WHERE song_id = :id`, song);
    await run('DELETE FROM songs WHERE id = :id', song);
    await run('DELETE FROM originals WHERE sha256 = :original AND NOT EXISTS (SELECT FROM songs WHERE original = :original)', song);
    const hashes = uses.map((u) => u.sha256);
    for (let at = 0; at < hashes.length; at += 1000) {
      await run('DELETE FROM blobs b WHERE b.sha256 IN (:hashes) AND NOT EXISTS (SELECT FROM blob_uses u WHERE u.sha256 = b.sha256)', { hashes: hashes.slice(at, at + 1000) });
    }
    return true;
  });
}
