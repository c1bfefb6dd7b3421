import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { sourceWords, type NamedSource } from '#core/operations/sources.ts';
import { BlobUse, Original, SongRecord, SourceUse } from '../db/models.ts';
import { Refusal } from '../refusal.ts';

/**
 * Who needs which blob. Writing names the blobs a song uses, under a lock that many share; purging takes
 * the lock alone, so that no blob goes between being found and being named.
 */
const purgeLock = 5_417_231;

export async function shareLock(sequelize: Sequelize, transaction: Transaction): Promise<void> {
  await sequelize.query('SELECT pg_advisory_xact_lock_shared(:purgeLock)', {
    replacements: { purgeLock },
    transaction,
  });
}

/** Notes that a song needs blobs; those it is known to need stay. */
export async function noteUses(
  songId: string,
  hashes: Iterable<string>,
  transaction: Transaction,
): Promise<void> {
  const rows = [...new Set(hashes)].sort().map((sha256) => ({ songId, sha256 }));
  for (let at = 0; at < rows.length; at += 1000)
    await BlobUse.bulkCreate(rows.slice(at, at + 1000), {
      ignoreDuplicates: true,
      transaction,
      returning: false,
    });
}

/** Notes what a step takes from outside its song. Refused where it was purged since it was read. */
export async function noteSources(
  songId: string,
  sources: readonly NamedSource[],
  transaction: Transaction,
): Promise<void> {
  for (const source of sources) {
    const there =
      'original' in source
        ? await Original.count({ where: { sha256: source.original }, transaction })
        : await SongRecord.count({ where: { id: source.song }, transaction });
    if (there === 0)
      throw new Refusal({
        code: 'source-missing',
        where: { field: 'settings' },
        source: sourceWords(source),
        blank: false,
      });
  }
  const rows = sources.map((source) =>
    'original' in source
      ? { songId, kind: 'original' as const, name: source.original }
      : { songId, kind: 'song' as const, name: source.song },
  );
  await SourceUse.bulkCreate(rows, { ignoreDuplicates: true, transaction, returning: false });
}

const dayMs = 86_400_000;

/** When a song that was removed is purged; null where that never happens. */
export const purgeAt = (removedAt: Date, keepDays: number): Date | null =>
  keepDays > 0 ? new Date(removedAt.getTime() + keepDays * dayMs) : null;

/**
 * Purges songs that somebody removed and that were kept long enough, with what nothing else needs, and
 * files that no song took. Gives how many songs.
 */
export async function purge(sequelize: Sequelize, keepDays: number, now: Date): Promise<number> {
  if (keepDays <= 0) return 0;
  const before = new Date(now.getTime() - keepDays * dayMs);
  let purged = 0;
  while (await purgeOne(sequelize, before)) purged++;
  await sequelize.transaction(async (transaction) => {
    await lockAlone(sequelize, transaction);
    await sequelize.query('DELETE FROM shelf_clips WHERE removed_at < :before', {
      replacements: { before },
      transaction,
    });
    await sequelize.query(
      `DELETE FROM originals o WHERE received_at < :before AND ${nobodyNeeds}`,
      { replacements: { before }, transaction },
    );
  });
  return purged;
}

const lockAlone = (sequelize: Sequelize, transaction: Transaction) =>
  sequelize.query('SELECT pg_advisory_xact_lock(:purgeLock)', {
    replacements: { purgeLock },
    transaction,
  });

/** Of an original `o`: it is no song's, no step takes from it, and it is no clip. */
const nobodyNeeds = `NOT EXISTS (SELECT FROM songs WHERE original = o.sha256) AND NOT EXISTS (SELECT FROM source_uses WHERE kind = 'original' AND name = o.sha256) AND NOT EXISTS (SELECT FROM shelf_clips WHERE sha256 = o.sha256)`;

/** A song whose time has come: no song that stays takes from it, directly or through others. */
const due = `
  WITH RECURSIVE staying(id) AS (
    SELECT id FROM songs WHERE removed_at IS NULL OR removed_at >= :before
    UNION SELECT u.name::uuid FROM source_uses u JOIN staying s ON u.song_id = s.id WHERE u.kind = 'song')
  SELECT id, original FROM songs WHERE removed_at < :before AND id NOT IN (SELECT id FROM staying) ORDER BY removed_at LIMIT 1 FOR UPDATE`;

/** One song in one transaction: whole, or not at all. */
function purgeOne(sequelize: Sequelize, before: Date): Promise<boolean> {
  return sequelize.transaction(async (transaction) => {
    await lockAlone(sequelize, transaction);
    const run = <T extends object>(
      sql: string,
      replacements: Record<string, unknown>,
    ): Promise<T[]> =>
      sequelize.query<T>(sql, { replacements, transaction, type: QueryTypes.SELECT });
    const [song] = await run<{ id: string; original: string }>(due, { before });
    if (!song) return false;
    const uses = await run<{ sha256: string }>(
      'DELETE FROM blob_uses WHERE song_id = :id RETURNING sha256',
      song,
    );
    const took = await run<{ name: string }>(
      "DELETE FROM source_uses WHERE song_id = :id RETURNING CASE kind WHEN 'original' THEN name END AS name",
      song,
    );
    for (const table of ['left_alone', 'handoffs', 'steps', 'revisions'])
      await run(`DELETE FROM ${table} WHERE song_id = :id`, song);
    await run('DELETE FROM songs WHERE id = :id', song);
    const originals = [song.original, ...took.flatMap(({ name }) => name ?? [])];
    await run(`DELETE FROM originals o WHERE sha256 IN (:originals) AND ${nobodyNeeds}`, {
      originals,
    });
    const hashes = uses.map((u) => u.sha256);
    for (let at = 0; at < hashes.length; at += 1000) {
      await run(
        'DELETE FROM blobs b WHERE b.sha256 IN (:hashes) AND NOT EXISTS (SELECT FROM blob_uses u WHERE u.sha256 = b.sha256)',
        { hashes: hashes.slice(at, at + 1000) },
      );
    }
    return true;
  });
}
