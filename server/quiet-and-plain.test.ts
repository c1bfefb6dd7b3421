import { DatabaseError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { valueFault } from '#core/problems/plain-values.ts';
import { quietError, quietUrl } from './quiet-log.ts';
import { isNoRoom } from './room.ts';
import { isId } from './store/ids.ts';
import { storable, storableText } from './store/storable.ts';

const databaseError = (code: string): DatabaseError =>
  new DatabaseError(
    Object.assign(new Error('duplicate key "The Lantern Ferry"'), {
      code,
      sql: "INSERT INTO songs VALUES ('The Lantern Ferry')",
      parameters: ['The Lantern Ferry'],
    }) as never,
  );

describe('texts that PostgreSQL cannot hold', () => {
  it('stand escaped, everything else as it is', () => {
    expect(storableText('a\0b\ud83c 🎻 \udfbb')).toBe('a\\u0000b\\ud83c 🎻 \\udfbb');
    const plain = { name: 'Voice 🎻', list: [1, null, 'a\nb'] };
    expect(storable(plain)).toBe(plain);
    expect(storable({ deep: [{ name: 'a\0' }], n: 1 })).toEqual({
      deep: [{ name: 'a\\u0000' }],
      n: 1,
    });
    // A text that only talks of it is not changed.
    expect(storable(['\\u0000'])).toEqual(['\\u0000']);
  });

  it('are found in a request by their field, and so is what is nested too deep, without recursion', () => {
    expect(valueFault('body', { a: [{ b: 'x\0' }] })).toMatchObject({
      code: 'settings-invalid',
      where: { field: 'body.a.0.b' },
      found: 'a NUL character',
    });
    expect(valueFault('body', { 'k\ud800': 1 })).toMatchObject({
      where: { field: 'body' },
      found: 'half of a surrogate pair',
    });
    expect(valueFault('body', { name: '🎻 é', n: [1, true, null] })).toBeUndefined();
    let deep: unknown = 1;
    for (let n = 0; n < 100_000; n++) deep = [deep];
    expect(valueFault('body', deep)).toMatchObject({ code: 'body-unreadable' });
  });
});

describe('what goes into the log', () => {
  it('says kind, code and place, and nothing that a song holds', () => {
    const text = JSON.stringify(quietError(databaseError('23505')));
    expect(text).toContain('23505');
    expect(text).not.toMatch(/Lantern|INSERT/);
    expect(quietError(new TypeError('x is undefined'))).toMatchObject({
      type: 'TypeError',
      message: 'x is undefined',
    });
    expect(quietUrl('/api/handoffs/1/files/The%20Lantern%20Ferry.mid')).toBe(
      '/api/handoffs/1/files/…',
    );
    expect(quietUrl('/api/songs?search=Lantern')).toBe('/api/songs');
    expect(quietUrl('/l/AbCdEfGhIjKlMnOpQrStUv/slip.html')).toBe('/l/…');
    expect(quietUrl('/l/AbCdEfGhIjKlMnOpQrStUv?x=1')).toBe('/l/…');
  });
});

describe('errors', () => {
  it('of a full disk are told from others, the file system’s and PostgreSQL’s (SQLSTATE 53100, disk full)', () => {
    expect([
      isNoRoom(Object.assign(new Error(), { code: 'ENOSPC' })),
      isNoRoom(databaseError('53100')),
      isNoRoom(databaseError('23505')),
      isNoRoom(new Error('ENOSPC')),
    ]).toEqual([true, true, false, false]);
  });

  it('ids are UUIDs and nothing like them', () => {
    expect(
      ['00000000-0000-4000-8000-000000000000', '-'.repeat(36), '0'.repeat(36), '', 'x'].map(isId),
    ).toEqual([true, false, false, false, false]);
  });
});
