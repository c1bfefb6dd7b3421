import path from 'node:path';

/** Settings of an installation, from the environment; units stand in the names. */
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
  readonly readTimeoutMs: number;
  readonly hosts: readonly string[];
  /** Removed songs are purged after so many days; 0 for never. */
  readonly keepRemovedDays: number;
  readonly purgeEveryMs: number;
  /** General MIDI sound bank, SF2 or SF3. */
  readonly soundsFile: string;
  readonly logLevel: string;
}

const number = (name: string, fallback: number): number => {
  const value = process.env[name];
  if (value === undefined || value === '') return fallback;
  const n = Number(value);
  if (!Number.isFinite(n) || n < 0) throw new Error(`${name} must be a number of 0 or more, not "${value}".`);
  return n;
};

export function configFromEnvironment(): Config {
  const databaseUrl = process.env.SATCHEL_DATABASE_URL;
  if (!databaseUrl) throw new Error('SATCHEL_DATABASE_URL is not set; start with "npm start", which sets it.');
  return {
    port: number('SATCHEL_PORT', 4173),
    host: '127.0.0.1',
    databaseUrl,
    dataFolder: path.resolve(process.env.SATCHEL_DATA ?? '.satchel'),
    webFolder: path.resolve(process.env.SATCHEL_WEB ?? 'dist/web'),
    databaseFolder: path.resolve(process.env.SATCHEL_DATABASE_FOLDER || process.env.SATCHEL_DATA || '.satchel'),
    leastRoomBytes: number('SATCHEL_LEAST_ROOM_MB', 32) * 1048576,
    mostFileBytes: number('SATCHEL_MAX_MB', 64) * 1048576,
    mostBodyBytes: number('SATCHEL_MAX_BODY_MB', 8) * 1048576,
    mostFilesAtOnce: 100,
    readTimeoutMs: number('SATCHEL_READ_TIMEOUT_MS', 30_000),
    keepRemovedDays: number('SATCHEL_KEEP_REMOVED_DAYS', 90),
    purgeEveryMs: number('SATCHEL_PURGE_EVERY_S', 3600) * 1000,
    hosts: ['127.0.0.1', 'localhost', '[::1]', ...(process.env.SATCHEL_HOSTS?.split(',').map((h) => h.trim()).filter(Boolean) ?? [])],
    soundsFile: path.resolve(process.env.SATCHEL_SOUNDS || '/usr/share/sounds/sf3/FluidR3Mono_GM.sf3'),
    logLevel: process.env.SATCHEL_LOG ?? 'info',
  };
}
