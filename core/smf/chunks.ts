/** Chunks: four letters, a four-byte length, the body. */

export const MThd = 0x4d546864;
export const MTrk = 0x4d54726b;

export function readUint32(bytes: Uint8Array, at: number): number {
  return (
    ((bytes[at]! << 24) | (bytes[at + 1]! << 16) | (bytes[at + 2]! << 8) | bytes[at + 3]!) >>> 0
  );
}

export function readUint16(bytes: Uint8Array, at: number): number {
  return (bytes[at]! << 8) | bytes[at + 1]!;
}

export function writeUint32(bytes: Uint8Array, at: number, value: number): void {
  bytes[at] = value >>> 24;
  bytes[at + 1] = value >>> 16;
  bytes[at + 2] = value >>> 8;
  bytes[at + 3] = value;
}

/** A four-letter id as text. */
export function chunkId(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(bytes[at]!, bytes[at + 1]!, bytes[at + 2]!, bytes[at + 3]!);
}

export const isTrackAt = (bytes: Uint8Array, at: number): boolean =>
  at + 8 <= bytes.length && readUint32(bytes, at) === MTrk;

/** A chunk of any kind can begin here: four printable letters and a length that fits the file. */
export function isChunkAt(bytes: Uint8Array, at: number): boolean {
  if (isTrackAt(bytes, at)) return true;
  if (at + 8 > bytes.length) return false;
  for (let i = at; i < at + 4; i++) if (bytes[i]! < 0x20 || bytes[i]! > 0x7e) return false;
  return at + 8 + readUint32(bytes, at + 4) <= bytes.length;
}

/** Place of the next four bytes `id` at or after `from`, or -1. */
export function findId(bytes: Uint8Array, id: number, from: number): number {
  const first = id >>> 24;
  for (
    let at = bytes.indexOf(first, from);
    at !== -1 && at + 4 <= bytes.length;
    at = bytes.indexOf(first, at + 1)
  ) {
    if (readUint32(bytes, at) === id) return at;
  }
  return -1;
}

/** Writes a chunk's id and length at `at`. */
export function writeChunkHead(bytes: Uint8Array, at: number, id: string, length: number): void {
  for (let i = 0; i < 4; i++) bytes[at + i] = id.charCodeAt(i);
  writeUint32(bytes, at + 4, length);
}

/** Writes a chunk at `at`; gives the place behind it. */
export function writeChunk(bytes: Uint8Array, at: number, id: string, body: Uint8Array): number {
  writeChunkHead(bytes, at, id, body.length);
  bytes.set(body, at + 8);
  return at + 8 + body.length;
}

/** The head of an MTrk chunk whose body has so many bytes. */
export function trackHead(length: number): Uint8Array {
  const head = new Uint8Array(8);
  writeChunkHead(head, 0, 'MTrk', length);
  return head;
}

/** Bodies of chunks that stand one behind the other, whole. */
export function bodiesOf(bytes: Uint8Array): Uint8Array[] {
  const bodies: Uint8Array[] = [];
  for (let at = 0; at + 8 <= bytes.length;) {
    const end = at + 8 + readUint32(bytes, at + 4);
    bodies.push(bytes.subarray(at + 8, end));
    at = end;
  }
  return bodies;
}

export function concatBytes(parts: readonly Uint8Array[]): Uint8Array {
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
}

export function sameBytes(a: Uint8Array, b: Uint8Array): boolean {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}
