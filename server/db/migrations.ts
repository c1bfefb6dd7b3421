import { QueryTypes, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

interface Migration {
  readonly name: string;
  readonly sql: readonly string[];
  /**
   * Run after the statements for some songs (:ids) at a time, each time in a transaction of its own: where
   * it is broken off, it finds what is left.
   */
  readonly bySongs?: string;
}

/** Every change of the tables, oldest first; one that has run anywhere is never edited. */
const migrations: readonly Migration[] = [
  {
    name: '0001-songs',
    sql: [
      'CREATE TABLE blobs (sha256 char(64) PRIMARY KEY, bytes bytea NOT NULL)',
      // The bytes are MIDI data of a few kilobytes: compressing them buys little and costs on every read.
      'ALTER TABLE blobs ALTER COLUMN bytes SET STORAGE EXTERNAL',
      'CREATE TABLE originals (sha256 char(64) PRIMARY KEY, bytes bytea NOT NULL, size integer NOT NULL)',
      'ALTER TABLE originals ALTER COLUMN bytes SET STORAGE EXTERNAL',
      `CREATE TABLE songs (
        id uuid PRIMARY KEY, original char(64) NOT NULL REFERENCES originals, file_name text NOT NULL, reading jsonb NOT NULL,
        head integer NOT NULL, removed_at timestamptz, created_at timestamptz NOT NULL, updated_at timestamptz NOT NULL)`,
      `CREATE TABLE revisions (
        song_id uuid NOT NULL REFERENCES songs, number integer NOT NULL CHECK (number >= 0), parent integer, depth integer NOT NULL, overview jsonb NOT NULL, manifest jsonb NOT NULL,
        PRIMARY KEY (song_id, number), FOREIGN KEY (song_id, parent) REFERENCES revisions (song_id, number))`,
      `CREATE TABLE steps (
        song_id uuid NOT NULL, revision integer NOT NULL, operation text NOT NULL, version integer NOT NULL, settings jsonb NOT NULL,
        scope jsonb NOT NULL, described text NOT NULL, report jsonb NOT NULL, created_at timestamptz NOT NULL,
        PRIMARY KEY (song_id, revision), FOREIGN KEY (song_id, revision) REFERENCES revisions (song_id, number))`,
      `CREATE TABLE handoffs (
        id uuid PRIMARY KEY, song_id uuid NOT NULL, revision integer NOT NULL, settings jsonb NOT NULL, slip jsonb NOT NULL,
        file_name text NOT NULL, file_sha256 char(64) NOT NULL REFERENCES blobs, file_bytes integer NOT NULL, created_at timestamptz NOT NULL,
        FOREIGN KEY (song_id, revision) REFERENCES revisions (song_id, number))`,
      'CREATE INDEX songs_by_age ON songs (created_at DESC) WHERE removed_at IS NULL',
      'CREATE INDEX handoffs_by_song ON handoffs (song_id, created_at DESC)',
    ],
  },
  {
    name: '0002-left-alone',
    sql: [
      'CREATE TABLE left_alone (song_id uuid NOT NULL REFERENCES songs, key text NOT NULL, PRIMARY KEY (song_id, key))',
    ],
  },
  {
    name: '0003-recipes',
    sql: [
      'CREATE TABLE recipes (id uuid PRIMARY KEY, name text NOT NULL, about text NOT NULL, steps jsonb NOT NULL, removed_at timestamptz, created_at timestamptz NOT NULL, updated_at timestamptz NOT NULL)',
    ],
  },
  {
    name: '0004-lists-and-uses',
    sql: [
      // The title a song has at its head, for lists to be searched and sorted by.
      'ALTER TABLE songs ADD COLUMN title text',
      "UPDATE songs s SET title = r.overview->>'title' FROM revisions r WHERE r.song_id = s.id AND r.number = s.head",
      'ALTER TABLE songs ALTER COLUMN title SET NOT NULL',
      'CREATE INDEX songs_by_name ON songs (lower(title), id) WHERE removed_at IS NULL',
      'CREATE INDEX songs_by_touch ON songs (updated_at DESC, id) WHERE removed_at IS NULL',
      'CREATE INDEX songs_by_original ON songs (original)',
      'CREATE INDEX songs_by_removal ON songs (removed_at) WHERE removed_at IS NOT NULL',
      // Which song needs which blob, in any of its revisions and handoffs.
      'CREATE TABLE blob_uses (song_id uuid NOT NULL REFERENCES songs, sha256 char(64) NOT NULL REFERENCES blobs, PRIMARY KEY (song_id, sha256))',
      'CREATE INDEX blob_uses_by_blob ON blob_uses (sha256)',
      `INSERT INTO blob_uses
        SELECT r.song_id, named.sha256 FROM revisions r, LATERAL (
          SELECT r.manifest->>'headerExtra' AS sha256
          UNION ALL SELECT t->>'blob' FROM jsonb_array_elements(r.manifest->'tracks') t
          UNION ALL SELECT c->>'blob' FROM jsonb_array_elements(r.manifest->'alienChunks') c
          UNION ALL SELECT r.manifest#>>'{wrapper,before}' UNION ALL SELECT r.manifest#>>'{wrapper,after}') named
        WHERE named.sha256 IS NOT NULL
        UNION SELECT song_id, file_sha256 FROM handoffs
        ON CONFLICT DO NOTHING`,
    ],
  },
  {
    name: '0005-facts',
    sql: [
      // What was worked out of blobs, for as long as they are kept.
      `CREATE TABLE IF NOT EXISTS facts (
        sha256 char(64) NOT NULL REFERENCES blobs ON DELETE CASCADE, kind text NOT NULL, code text NOT NULL, depends text NOT NULL, value jsonb NOT NULL,
        PRIMARY KEY (sha256, kind))`,
    ],
    // Manifests carried a summary, which is put together from facts now.
    bySongs: `UPDATE revisions SET manifest = (manifest - 'summary') || '{"version": 2}' WHERE song_id IN (:ids) AND manifest->>'version' IS NULL`,
  },
  {
    name: '0006-recipe-versions',
    // Settings that were kept without a version are those of the first.
    sql: [
      `UPDATE recipes SET steps = (SELECT coalesce(jsonb_agg('{"version": 1}' || step ORDER BY place), '[]') FROM jsonb_array_elements(steps) WITH ORDINALITY AS kept(step, place))`,
    ],
  },
  { name: '0007-moves', sql: ['ALTER TABLE steps ADD COLUMN moves jsonb'] },
  {
    name: '0008-sources',
    sql: [
      // What the steps of a song took from outside it: an original by its hash, another song by its id.
      `CREATE TABLE source_uses (song_id uuid NOT NULL REFERENCES songs, kind text NOT NULL CHECK (kind IN ('original', 'song')), name text NOT NULL, PRIMARY KEY (song_id, kind, name))`,
      'CREATE INDEX source_uses_by_name ON source_uses (kind, name)',
      // Originals may be kept without a song; those that nobody takes from are purged by their age.
      'ALTER TABLE originals ADD COLUMN received_at timestamptz NOT NULL DEFAULT now()',
    ],
  },
  {
    name: '0009-instruments',
    sql: [
      'CREATE TABLE instruments (id uuid PRIMARY KEY, name text NOT NULL, definition jsonb NOT NULL, removed_at timestamptz, created_at timestamptz NOT NULL, updated_at timestamptz NOT NULL)',
    ],
  },
  {
    name: '0010-shelf',
    sql: [
      'CREATE TABLE shelf_clips (id uuid PRIMARY KEY, sha256 char(64) NOT NULL REFERENCES originals, part int NOT NULL, folder text NOT NULL, name text NOT NULL, tags jsonb NOT NULL, kind text NOT NULL, bars int NOT NULL, meter text NOT NULL, bpm double precision NOT NULL, key text, notes int NOT NULL, drums boolean NOT NULL, program int, added_at timestamptz NOT NULL, removed_at timestamptz)',
      // What is the same lies in a folder once.
      'CREATE UNIQUE INDEX shelf_clips_once ON shelf_clips (sha256, part, folder)',
      'CREATE INDEX shelf_clips_by_folder ON shelf_clips (folder)',
    ],
  },
  {
    name: '0011-handoffs-of-several-files',
    sql: [
      // What is listed of each file, the slips of all, and what is said of all: one of before has one file,
      // and its slip says all.
      'ALTER TABLE handoffs ADD COLUMN files jsonb, ADD COLUMN slips jsonb, ADD COLUMN notes jsonb',
    ],
  },
  {
    name: '0012-receivers-and-links',
    sql: [
      'CREATE TABLE receivers (id uuid PRIMARY KEY, name text NOT NULL, receiver jsonb NOT NULL, removed_at timestamptz, created_at timestamptz NOT NULL, updated_at timestamptz NOT NULL)',
      'ALTER TABLE handoffs ADD COLUMN receiver jsonb',
      // Of a link only the hash of its secret is kept.
      `CREATE TABLE handoff_links (
        id uuid PRIMARY KEY, handoff_id uuid NOT NULL REFERENCES handoffs ON DELETE CASCADE, song_id uuid NOT NULL, secret_sha256 char(64) NOT NULL UNIQUE,
        expires_at timestamptz NOT NULL, revoked_at timestamptz, downloads integer NOT NULL, created_at timestamptz NOT NULL)`,
      'CREATE INDEX handoff_links_by_handoff ON handoff_links (handoff_id)',
    ],
  },
  {
    name: '0013-lists-and-preferences',
    sql: [
      // How many findings were open when a revision was looked over last.
      `ALTER TABLE songs ADD COLUMN tags jsonb NOT NULL DEFAULT '[]', ADD COLUMN looked_at integer, ADD COLUMN open_findings integer`,
      'CREATE TABLE preferences (id text PRIMARY KEY, kept jsonb NOT NULL, updated_at timestamptz NOT NULL)',
    ],
  },
  {
    name: '0014-what-songs-are-found-by',
    sql: [
      // Small letters once, when they are written: making them of every song at each search is most of its cost.
      'ALTER TABLE songs ADD COLUMN sought text GENERATED ALWAYS AS (lower(title || chr(10) || file_name || chr(10) || tags::text)) STORED',
    ],
  },
  {
    name: '0015-where-files-are-from',
    sql: ["ALTER TABLE originals ADD COLUMN source text NOT NULL DEFAULT ''"],
  },
];

/** Any number: servers that start at once wait for each other at it. */
const migrationLock = 5_417_230;

/**
 * Brings the tables up to date; each migration is one transaction, and what goes over all songs one for
 * some of them at a time. Two servers that start at once do it one after the other.
 */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: migrations.map(({ name, sql, bySongs }) => ({
      name,
      up: async () => {
        await sequelize.transaction(async (transaction) => {
          for (const statement of sql) await sequelize.query(statement, { transaction });
        });
        if (bySongs) await forAllSongs(sequelize, bySongs);
      },
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await sequelize.transaction(async (transaction) => {
    await sequelize.query('SELECT pg_advisory_xact_lock(:migrationLock)', {
      replacements: { migrationLock },
      transaction,
    });
    await umzug.up();
  });
}

const songsAtOnce = 50;

async function forAllSongs(sequelize: Sequelize, statement: string): Promise<void> {
  const songs = await sequelize.query<{ id: string }>('SELECT id FROM songs ORDER BY id', {
    type: QueryTypes.SELECT,
  });
  for (let at = 0; at < songs.length; at += songsAtOnce) {
    await sequelize.query(statement, {
      replacements: { ids: songs.slice(at, at + songsAtOnce).map((s) => s.id) },
    });
  }
}
