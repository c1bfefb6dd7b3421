import path from 'node:path';
import { z } from 'zod';

const number = (fallback: number) =>
  z.preprocess(
    (said) => (said === '' ? undefined : said),
    z.coerce
      .number({ error: 'a number of 0 or more' })
      .min(0, 'a number of 0 or more')
      .default(fallback),
  );
const text = (fallback: string) =>
  z.preprocess((said) => (said === '' ? undefined : said), z.string().default(fallback));

/** What the environment may say, by its names; empty is not said. */
const environment = z.object({
  SATCHEL_DATABASE_URL: z
    .string({ error: 'an address; start with "npm start", which sets it' })
    .min(1, 'an address; start with "npm start", which sets it'),
  SATCHEL_PORT: number(4173),
  SATCHEL_DATA: text('.satchel'),
  SATCHEL_WEB: text('dist/web'),
  SATCHEL_DATABASE_FOLDER: text(''),
  SATCHEL_LEAST_ROOM_MB: number(32),
  SATCHEL_MAX_MB: number(64),
  SATCHEL_MAX_BODY_MB: number(8),
  SATCHEL_READ_TIMEOUT_MS: number(30_000),
  SATCHEL_KEEP_REMOVED_DAYS: number(90),
  SATCHEL_PURGE_EVERY_S: number(3600),
  SATCHEL_HOSTS: text(''),
  SATCHEL_SOUNDS: text('/usr/share/sounds/sf3/FluidR3Mono_GM.sf3'),
  SATCHEL_LOG: text('info'),
});

/** Settings of an installation; units stand in the names. */
export interface Config {
  readonly port: number;
  readonly host: string;
  readonly databaseUrl: string;
  readonly dataFolder: string;
  readonly webFolder: string;
  /** Where the database's files lie, for the room left there. */
  readonly databaseFolder: string;
  /** Nothing is written where less than this is free. */
  readonly leastRoomBytes: number;
  readonly mostFileBytes: number;
  readonly mostBodyBytes: number;
  readonly mostFilesAtOnce: number;
  /** In a zip archive, or all that come in one request. */
  readonly mostFilesInArchive: number;
  /** Of all files that archives of one request hold, when they are unpacked. */
  readonly maxUnpackedBytes: number;
  readonly readTimeoutMs: number;
  readonly hosts: readonly string[];
  /** Removed songs are purged after so many days; 0 for never. */
  readonly keepRemovedDays: number;
  readonly purgeEveryMs: number;
  /** General MIDI sound bank, SF2 or SF3. */
  readonly soundsFile: string;
  readonly logLevel: string;
}

const bytesOf = (megabytes: number): number => Math.round(megabytes * 1048576);

/** @throws where the environment says what cannot be, by the name of the variable */
export function configFrom(said: Readonly<Record<string, string | undefined>>): Config {
  const read = environment.safeParse(said);
  if (!read.success) {
    const [issue] = read.error.issues;
    const name = String(issue!.path[0]);
    throw new Error(
      `${name} must be ${issue!.message}, not ${said[name] === undefined ? 'left out' : `"${said[name]}"`}.`,
    );
  }
  const env = read.data;
  return {
    port: env.SATCHEL_PORT,
    host: '127.0.0.1',
    databaseUrl: env.SATCHEL_DATABASE_URL,
    dataFolder: path.resolve(env.SATCHEL_DATA),
    webFolder: path.resolve(env.SATCHEL_WEB),
    databaseFolder: path.resolve(env.SATCHEL_DATABASE_FOLDER || env.SATCHEL_DATA),
    leastRoomBytes: bytesOf(env.SATCHEL_LEAST_ROOM_MB),
    mostFileBytes: bytesOf(env.SATCHEL_MAX_MB),
    mostBodyBytes: bytesOf(env.SATCHEL_MAX_BODY_MB),
    mostFilesAtOnce: 100,
    mostFilesInArchive: 1000,
    maxUnpackedBytes: 16 * bytesOf(env.SATCHEL_MAX_MB),
    readTimeoutMs: env.SATCHEL_READ_TIMEOUT_MS,
    keepRemovedDays: env.SATCHEL_KEEP_REMOVED_DAYS,
    purgeEveryMs: env.SATCHEL_PURGE_EVERY_S * 1000,
    hosts: [
      '127.0.0.1',
      'localhost',
      '[::1]',
      ...env.SATCHEL_HOSTS.split(',')
        .map((h) => h.trim())
        .filter(Boolean),
    ],
    soundsFile: path.resolve(env.SATCHEL_SOUNDS),
    logLevel: env.SATCHEL_LOG,
  };
}
