import { crc32, deflateRawSync } from 'node:zlib';

export interface ToPack {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** Size that the archive states for it, where that is to be a lie. */
  readonly stated?: number;
  /** Its checksum, where that is to be a lie. */
  readonly checksum?: number;
  /** It is listed over the body of the file before it. */
  readonly overlaps?: boolean;
}

const numbers = (...fields: (readonly [value: number, bytes: 2 | 4])[]): Buffer =>
  Buffer.concat(
    fields.map(([value, bytes]) => {
      const field = Buffer.alloc(bytes);
      field.writeUIntLE(value, 0, bytes);
      return field;
    }),
  );

/**
 * A zip archive by PKWARE's APPNOTE 6.3: local headers (4.3.7), central directory (4.3.12) and its end
 * (4.3.16), deflated.
 */
export function zipOf(files: readonly ToPack[]): Uint8Array {
  const locals: Buffer[] = [];
  const central: Buffer[] = [];
  let [offset, before] = [0, 0];
  for (const { name, bytes, stated = bytes.length, checksum, overlaps } of files) {
    const packed = deflateRawSync(bytes);
    const called = Buffer.from(name);
    const shared = numbers(
      [20, 2],
      [0x0800, 2],
      [8, 2],
      [0, 4],
      [checksum ?? crc32(bytes), 4],
      [packed.length, 4],
      [stated, 4],
      [called.length, 2],
      [0, 2],
    );
    const local = Buffer.concat([numbers([0x04034b50, 4]), shared, called, packed]);
    central.push(
      Buffer.concat([
        numbers([0x02014b50, 4], [20, 2]),
        shared,
        numbers([0, 2], [0, 2], [0, 2], [0, 4], [overlaps ? before : offset, 4]),
        called,
      ]),
    );
    if (overlaps) continue;
    locals.push(local);
    before = offset;
    offset += local.length;
  }
  const directory = Buffer.concat(central);
  const end = numbers(
    [0x06054b50, 4],
    [0, 2],
    [0, 2],
    [Math.min(files.length, 0xffff), 2],
    [Math.min(files.length, 0xffff), 2],
    [directory.length, 4],
    [offset, 4],
    [0, 2],
  );
  return new Uint8Array(Buffer.concat([...locals, directory, end]));
}
