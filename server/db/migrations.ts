import type { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';

interface Migration {
  readonly name: string;
  readonly sql: readonly string[];
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
    sql: ['CREATE TABLE left_alone (song_id uuid NOT NULL REFERENCES songs, key text NOT NULL, PRIMARY KEY (song_id, key))'],
  },
  {
    name: '0003-recipes',
    sql: ['CREATE TABLE recipes (id uuid PRIMARY KEY, name text NOT NULL, about text NOT NULL, steps jsonb NOT NULL, removed_at timestamptz, created_at timestamptz NOT NULL, updated_at timestamptz NOT NULL)'],
  },
];

/** Brings the tables up to date; each migration is one transaction. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations: migrations.map(({ name, sql }) => ({
      name,
      up: () => sequelize.transaction(async (transaction) => {
        for (const statement of sql) await sequelize.query(statement, { transaction });
      }),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}
