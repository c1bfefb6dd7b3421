import { chunkBytes, concatBytes, writeUint32 } from './chunks.ts';
import { divisionWord } from './division.ts';
import { META, type Events } from './events.ts';
import { wrapRiff } from './riff.ts';
import type { Smf } from './smf.ts';
import { largestQuantity, writeQuantity } from './variable-length.ts';

export interface WriteOptions {
  /** Leave out a channel status that equals the one before it (SMF 1.0). Default true. */
  readonly runningStatus?: boolean;
}

/** The body of a track chunk, strict: minimal quantities, running status ended by meta and system exclusive events. Throws where a time between events is too long for the format. */
export function writeTrack(events: Events, options: WriteOptions = {}): Uint8Array {
  const { count, atTick, status, data1, data2, payload, pool } = events;
  const running = options.runningStatus ?? true;
  const bytes = new Uint8Array(count * 7 + payloadRoom(events));
  let at = 0;
  let before = 0;
  let last = 0;
  for (let i = 0; i < count; i++) {
    const delta = atTick[i]! - before;
    before = atTick[i]!;
    if (delta < 0x80 && delta >= 0) bytes[at++] = delta;
    else at = writeQuantity(bytes, at, delta);
    const s = status[i]!;
    if (s < 0xf0) {
      if (s !== last || !running) bytes[at++] = s;
      last = s;
      bytes[at++] = data1[i]!;
      if ((s & 0xe0) !== 0xc0) bytes[at++] = data2[i]!;
      continue;
    }
    last = 0;
    bytes[at++] = s;
    if (s === META) bytes[at++] = data1[i]!;
    const n = payload[i]!;
    const from = pool.start[n]!;
    const to = pool.end[n]!;
    at = writeQuantity(bytes, at, to - from);
    bytes.set(pool.bytes.subarray(from, to), at);
    at += to - from;
  }
  return bytes.slice(0, at);
}

/** Bytes that payloads and their lengths can take; a payload may serve several events. */
function payloadRoom({ count, payload, pool }: Events): number {
  let sum = 0;
  for (let i = 0; i < count; i++) {
    const n = payload[i]!;
    if (n !== 0) sum += 4 + pool.end[n]! - pool.start[n]!;
  }
  return sum;
}

/** Whether every time between two events can be said in the format's 28 bits. */
export function fitsFormat({ atTick, count }: Events): boolean {
  for (let i = 0, before = 0; i < count; before = atTick[i++]!) if (atTick[i]! - before > largestQuantity) return false;
  return true;
}

/** The file as bytes. A track's very bytes are used where it has them. */
export function writeSmf(smf: Smf, options: WriteOptions = {}): Uint8Array {
  const header = new Uint8Array(6 + smf.headerExtra.length);
  writeUint32(header, 0, (smf.format << 16) | smf.tracks.length);
  const word = divisionWord(smf.division);
  header[4] = word >> 8;
  header[5] = word & 0xff;
  header.set(smf.headerExtra, 6);
  const parts = [chunkBytes('MThd', header)];
  const alien = (before: number): void => {
    for (const chunk of smf.alienChunks) if (chunk.beforeTrack === before) parts.push(chunkBytes(chunk.id, chunk.body));
  };
  smf.tracks.forEach((track, index) => {
    alien(index);
    parts.push(chunkBytes('MTrk', track.body ?? writeTrack(track.events, options)));
  });
  alien(smf.tracks.length);
  const data = concatBytes(parts);
  return smf.wrapper ? wrapRiff(data, smf.wrapper) : data;
}

