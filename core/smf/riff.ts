import type { ProblemLog } from './problem-log.ts';
import { chunkId } from './chunks.ts';

/** The RIFF wrapper of an RMID file: everything around the MIDI data, kept byte for byte. */
export interface RiffWrapper {
  /** Chunks between the RMID mark and the data chunk. */
  readonly before: Uint8Array;
  /** Chunks behind the data chunk. */
  readonly after: Uint8Array;
}

interface Unwrapped {
  readonly from: number;
  readonly to: number;
  readonly wrapper: RiffWrapper;
}

const littleEndian32 = (bytes: Uint8Array, at: number): number =>
  (bytes[at]! | (bytes[at + 1]! << 8) | (bytes[at + 2]! << 16) | (bytes[at + 3]! << 24)) >>> 0;

export const isRmid = (bytes: Uint8Array): boolean =>
  bytes.length >= 12 && chunkId(bytes, 0) === 'RIFF' && chunkId(bytes, 8) === 'RMID';

/** Where the MIDI data of a RIFF RMID file lies (RP-029), or undefined if it is no such file. */
export function unwrapRiff(bytes: Uint8Array, log: ProblemLog): Unwrapped | undefined {
  if (!isRmid(bytes)) return undefined;
  const stated = littleEndian32(bytes, 4);
  if (stated + 8 !== bytes.length && stated + 9 !== bytes.length)
    log.add({
      code: 'wrapper-size',
      where: { chunk: 'RIFF', byte: 4 },
      stated,
      present: bytes.length - 8,
    });
  for (let at = 12; at + 8 <= bytes.length;) {
    const size = littleEndian32(bytes, at + 4);
    const next = at + 8 + size + (size & 1);
    if (chunkId(bytes, at) === 'data') {
      const to = dataEnd(bytes, at + 8, size);
      if (to !== at + 8 + size)
        log.add({
          code: 'wrapper-size',
          where: { chunk: 'data', byte: at + 4 },
          stated: size,
          present: to - at - 8,
        });
      return {
        from: at + 8,
        to,
        wrapper: {
          before: bytes.slice(12, at),
          after: bytes.slice(to === at + 8 + size ? Math.min(next, bytes.length) : to),
        },
      };
    }
    at = next;
  }
  return undefined;
}

/**
 * Where the MIDI data ends: a size that leaves out what begins behind it, or passes the end of the file, is
 * not believed.
 */
function dataEnd(bytes: Uint8Array, from: number, size: number): number {
  const end = from + size;
  const known =
    end === bytes.length ||
    end + 1 === bytes.length ||
    (end + 8 <= bytes.length && /^[\x20-\x7e]{4}$/.test(chunkId(bytes, end + (size & 1))));
  return size >= 14 && known ? end : bytes.length;
}

/** Puts MIDI data back into its wrapper. */
export function wrapRiff(data: Uint8Array, wrapper: RiffWrapper): Uint8Array {
  const pad = data.length & 1;
  const bytes = new Uint8Array(
    12 + wrapper.before.length + 8 + data.length + pad + wrapper.after.length,
  );
  const write = (at: number, id: string, size: number): void => {
    for (let i = 0; i < 4; i++) bytes[at + i] = id.charCodeAt(i);
    for (let i = 0; i < 4; i++) bytes[at + 4 + i] = (size >>> (8 * i)) & 0xff;
  };
  write(0, 'RIFF', bytes.length - 8);
  for (let i = 0; i < 4; i++) bytes[8 + i] = 'RMID'.charCodeAt(i);
  bytes.set(wrapper.before, 12);
  const at = 12 + wrapper.before.length;
  write(at, 'data', data.length);
  bytes.set(data, at + 8);
  bytes.set(wrapper.after, at + 8 + data.length + pad);
  return bytes;
}
