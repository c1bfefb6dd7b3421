import { QueryTypes, type Sequelize } from 'sequelize';
import type { SongListQuery } from '#contracts/songs.ts';
import type { ProblemText } from '#core/problems/problems.ts';
import type { Overview } from '#core/work/overview.ts';

/** A song as a list shows it, straight from the tables. Sizes in bytes. */
export interface ListedSong {
  readonly id: string;
  readonly fileName: string;
  readonly reading: readonly ProblemText[];
  readonly head: number;
  readonly depth: number;
  readonly overview: Overview;
  readonly createdAt: Date;
  readonly updatedAt: Date;
  readonly removedAt: Date | null;
  readonly bytes: number;
  /** Everything that is kept of it: the original, and the events of all its revisions and handoffs. */
  readonly keptBytes: number;
  readonly tags: readonly string[];
  readonly lookedAt: number | null;
  readonly openFindings: number | null;
  readonly handedOff: {
    readonly at: string;
    readonly to: string | null;
    readonly revision: number;
  } | null;
}

/** Names of the columns are those of both the songs and the page of them. */
const orders: Readonly<Record<SongListQuery['sort'], string>> = {
  newest: 'created_at DESC, id',
  oldest: 'created_at, id',
  touched: 'updated_at DESC, id',
  name: 'lower(title), id',
  largest: 'size DESC, id',
};

/** What a search may hold that LIKE would take for something else. */
const literally = (text: string): string => text.replace(/[\\%_]/g, '\\$&');

/** One page of the songs: found, sorted and counted by the database, so that the cost is the page's. */
export async function listSongs(
  sequelize: Sequelize,
  { removed, search, sort, from, limit }: SongListQuery,
): Promise<{ songs: ListedSong[]; total: number }> {
  const replacements = { like: `%${literally(search)}%`, limit, from };
  const where = `WHERE removed_at IS ${removed ? 'NOT NULL' : 'NULL'}${search ? ' AND sought LIKE lower(:like)' : ''}`;
  // Only the largest need every song's size to be found.
  const found =
    sort === 'largest'
      ? 'SELECT songs.*, originals.size FROM songs JOIN originals ON sha256 = original'
      : 'SELECT songs.* FROM songs';
  const [songs, [counted]] = await Promise.all([
    sequelize.query<ListedSong>(
      `WITH page AS (${found} ${where} ORDER BY ${orders[sort]} LIMIT :limit OFFSET :from)
      SELECT p.id, p.title, p.file_name AS "fileName", p.reading, p.head, r.depth, r.overview, p.created_at AS "createdAt", p.updated_at AS "updatedAt", p.removed_at AS "removedAt", p.tags, p.looked_at AS "lookedAt", p.open_findings AS "openFindings", o.size AS bytes,
        (SELECT jsonb_build_object('at', h.created_at, 'to', h.receiver->>'name', 'revision', h.revision) FROM handoffs h WHERE h.song_id = p.id ORDER BY h.created_at DESC LIMIT 1) AS "handedOff",
        (o.size + coalesce((SELECT sum(octet_length(b.bytes)) FROM blob_uses u JOIN blobs b ON b.sha256 = u.sha256 WHERE u.song_id = p.id), 0))::float8 AS "keptBytes"
      FROM page p JOIN revisions r ON r.song_id = p.id AND r.number = p.head JOIN originals o ON o.sha256 = p.original
      ORDER BY ${orders[sort].replace(/\b(created_at|updated_at|title|id)\b/g, 'p.$1').replace('size', 'o.size')}`,
      { replacements, type: QueryTypes.SELECT },
    ),
    sequelize.query<{ total: number }>(`SELECT count(*)::int AS total FROM songs ${where}`, {
      replacements,
      type: QueryTypes.SELECT,
    }),
  ]);
  return { songs, total: counted?.total ?? 0 };
}
