import { writeChunk, writeChunkHead, writeUint32 } from './chunks.ts';
import { divisionWord } from './division.ts';
import { META, type Events } from './events.ts';
import { wrapRiff } from './riff.ts';
import type { Smf } from './smf.ts';
import { largestQuantity, writeQuantity } from './variable-length.ts';

export interface WriteOptions {
  /** Leave out a channel status that equals the one before it (SMF 1.0). Default true. */
  readonly runningStatus?: boolean;
}

/**
 * The body of a track chunk, strict: minimal quantities, running status ended by meta and system exclusive
 * events. Throws where a time between events is too long for the format.
 */
export function writeTrack(events: Events, options: WriteOptions = {}): Uint8Array {
  const bytes = new Uint8Array(mostBytes(events));
  return bytes.slice(0, writeEvents(bytes, 0, events, options.runningStatus ?? true));
}

/**
 * Bytes that the events can take at most: room that is not used is never touched, so it costs less than
 * counting exactly.
 */
function mostBytes({ count, payload, pool }: Events): number {
  let sum = count * 7;
  for (let i = 0; i < count; i++) {
    const n = payload[i]!;
    if (n !== 0) sum += 4 + pool.end[n]! - pool.start[n]!;
  }
  return sum;
}

/** Writes the events at `at`; gives the place behind them. */
function writeEvents(
  bytes: Uint8Array,
  at: number,
  { count, atTick, status, data1, data2, payload, pool }: Events,
  running: boolean,
): number {
  let before = 0;
  let last = 0;
  for (let i = 0; i < count; i++) {
    const delta = atTick[i]! - before;
    before = atTick[i]!;
    if (delta >= 0 && delta < 0x80) bytes[at++] = delta;
    else if (delta >= 0 && delta < 0x4000) {
      bytes[at++] = 0x80 | (delta >> 7);
      bytes[at++] = delta & 0x7f;
    } else at = writeQuantity(bytes, at, delta);
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
  return at;
}

/** Whether every time between two events can be said in the format's 28 bits. */
export function fitsFormat({ atTick, count }: Events): boolean {
  for (let i = 0, before = 0; i < count; before = atTick[i++]!)
    if (atTick[i]! - before > largestQuantity) return false;
  return true;
}

/** The file as bytes. A track's very bytes are used where it has them. */
export function writeSmf(smf: Smf, options: WriteOptions = {}): Uint8Array {
  const running = options.runningStatus ?? true;
  const alienBytes = smf.alienChunks.reduce((sum, chunk) => sum + 8 + chunk.body.length, 0);
  const bytes = new Uint8Array(
    smf.tracks.reduce(
      (sum, track) => sum + 8 + (track.body?.length ?? mostBytes(track.events)),
      14 + smf.headerExtra.length + alienBytes,
    ),
  );
  let at = writeChunk(bytes, 0, 'MThd', headerBody(smf));
  const alien = (before: number): void => {
    for (const chunk of smf.alienChunks)
      if (chunk.beforeTrack === before) at = writeChunk(bytes, at, chunk.id, chunk.body);
  };
  smf.tracks.forEach((track, index) => {
    alien(index);
    if (track.body) {
      at = writeChunk(bytes, at, 'MTrk', track.body);
      return;
    }
    const end = writeEvents(bytes, at + 8, track.events, running);
    writeChunkHead(bytes, at, 'MTrk', end - at - 8);
    at = end;
  });
  alien(smf.tracks.length);
  const file = bytes.slice(0, at);
  return smf.wrapper ? wrapRiff(file, smf.wrapper) : file;
}

function headerBody(smf: Smf): Uint8Array {
  const body = new Uint8Array(6 + smf.headerExtra.length);
  writeUint32(body, 0, (smf.format << 16) | smf.tracks.length);
  const word = divisionWord(smf.division);
  body[4] = word >> 8;
  body[5] = word & 0xff;
  body.set(smf.headerExtra, 6);
  return body;
}
