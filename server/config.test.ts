import { describe, expect, it } from 'vitest';
import { configFrom } from './config.ts';

const least = { SATCHEL_DATABASE_URL: 'postgres://x' };

describe('settings of an installation', () => {
  it('have what the README says where nothing is said, and empty is nothing', () => {
    const expected = {
      port: 4173,
      mostFileBytes: 64 * 1048576,
      mostBodyBytes: 8 * 1048576,
      leastRoomBytes: 32 * 1048576,
      keepRemovedDays: 90,
      readTimeoutMs: 30_000,
      hosts: ['127.0.0.1', 'localhost', '[::1]'],
    };
    expect(configFrom(least)).toMatchObject(expected);
    expect(
      configFrom({ ...least, SATCHEL_PORT: '', SATCHEL_HOSTS: '', SATCHEL_DATABASE_FOLDER: '' }),
    ).toMatchObject(expected);
  });

  it('are read in their units; the database’s folder is the data’s where no other is said', () => {
    expect(
      configFrom({
        ...least,
        SATCHEL_MAX_MB: '0.5',
        SATCHEL_PURGE_EVERY_S: '0.1',
        SATCHEL_HOSTS: 'a.b, c',
        SATCHEL_DATA: '/d',
      }),
    ).toMatchObject({
      mostFileBytes: 524_288,
      purgeEveryMs: 100,
      hosts: ['127.0.0.1', 'localhost', '[::1]', 'a.b', 'c'],
      databaseFolder: '/d',
    });
  });

  it('that cannot be are named', () => {
    expect(() => configFrom({})).toThrow(
      'SATCHEL_DATABASE_URL must be an address; start with "npm start", which sets it, not left out.',
    );
    for (const said of ['many', '-1', 'Infinity'])
      expect(() => configFrom({ ...least, SATCHEL_MAX_MB: said })).toThrow(
        `SATCHEL_MAX_MB must be a number of 0 or more, not "${said}".`,
      );
  });
});
