import { describe, expect, it } from 'vitest';
import { nameFault, readList, type ReceivedFile } from './upload.ts';

describe('file names', () => {
  it.each([
    'song.mid',
    'The Lantern Ferry.mid',
    '灯籠.kar',
    'Été – final (2).MID',
    '...hidden.mid',
    `${'x'.repeat(251)}.mid`,
  ])('%s can be used', (name) => {
    expect(nameFault(name)).toBeUndefined();
  });

  it.each([
    ['', 'no name'],
    ['   ', 'no name'],
    ['../a.mid', 'a path'],
    ['a\\b.mid', 'a path'],
    ['/etc/passwd', 'a path'],
    ['.', 'only dots'],
    ['..', 'only dots'],
    ['a\u0000.mid', 'control characters'],
    ['a\u009f.mid', 'control characters'],
    ['é'.repeat(128), 'more than 255 bytes'],
  ])('%j cannot, since it is %s', (name, why) => {
    expect(nameFault(name)).toBe(why);
  });
});

describe('a list among files that came', () => {
  it('of more than 8 MB is refused before it is read', async () => {
    let reads = 0;
    const list = (size: number): ReceivedFile => ({
      name: 'satchel.json',
      path: 'song/satchel.json',
      size,
      bytes: async () => {
        reads++;
        return Buffer.from('{}');
      },
    });
    const eight = 8 * 1_048_576;
    expect(await readList(list(eight))).toBe('{}');
    await expect(readList(list(eight + 1))).rejects.toMatchObject({
      problem: { code: 'list-too-large', where: { file: 'song/satchel.json' } },
    });
    expect(reads).toBe(1);
  });
});
