import { ok, refused, type RefusalProblem, type Result } from '../problems/problems.ts';
import { MThd, MTrk, chunkId, findId, isChunkAt, isTrackAt, readUint16, readUint32 } from './chunks.ts';
import { divisionOf, type Division } from './division.ts';
import type { Events } from './events.ts';
import { looksLike } from './looks-like.ts';
import { ProblemLog, TrackLog } from './problem-log.ts';
import { readTrack } from './read-track.ts';
import { unwrapRiff } from './riff.ts';
import type { AlienChunk, Smf, SmfReading, SmfTrack } from './smf.ts';

/** Most events taken from one file: 16 million are over 300 MB of columns. */
export const mostEvents = 16_000_000;

interface Header {
  readonly format: number;
  readonly stated: number;
  readonly division: Division;
  readonly extra: Uint8Array;
  readonly next: number;
}

const fallbackDivision: Division = { kind: 'ppq', ticksPerQuarter: 480 };

/**
 * Reads a standard MIDI file (SMF 1.0; RIFF wrappers of RP-029). Tolerant: what is damaged is salvaged and every problem told;
 * only bytes that hold no MIDI at all are refused.
 */
export function readSmf(file: Uint8Array): Result<SmfReading, RefusalProblem> {
  if (file.length === 0) return refused({ code: 'file-empty', where: {} });
  const log = new ProblemLog();
  const wrapped = unwrapRiff(file, log);
  // Offsets stay those of the whole file: the data is cut at its end, not at its beginning.
  const bytes = wrapped ? file.subarray(0, wrapped.to) : file;
  const start = findStart(bytes, wrapped?.from ?? 0, log);
  if (start === -1) return refused({ code: 'not-midi', where: {}, ...looksLike(file) });
  const header = readUint32(bytes, start) === MThd ? readHeader(bytes, start, log) : headerless(start, log);
  const chunks = readChunks(bytes, header.next, log);
  if (chunks === 'too many') return refused({ code: 'too-many-events', where: {}, most: mostEvents });
  if (chunks.tracks.length === 0) return refused({ code: 'no-tracks', where: {} });
  const smf: Smf = {
    format: settleFormat(header, chunks.tracks.length, log),
    division: header.division,
    headerExtra: header.extra,
    ...chunks,
    ...(wrapped ? { wrapper: wrapped.wrapper } : {}),
  };
  return ok({ smf, problems: log.problems() });
}

/** The file header, or the first track where there is none; other bytes may stand before either. */
function findStart(bytes: Uint8Array, from: number, log: ProblemLog): number {
  const header = findId(bytes, MThd, from);
  const track = findId(bytes, MTrk, from);
  const start = header === -1 ? track : track !== -1 && track < header ? track : header;
  if (start > from && start === header) log.add({ code: 'header-late', where: { chunk: 'MThd', byte: start }, bytes: start - from });
  return start;
}

function headerless(start: number, log: ProblemLog): Header {
  log.add({ code: 'header-missing', where: { chunk: 'MTrk', byte: start } });
  return { format: 1, stated: -1, division: fallbackDivision, extra: new Uint8Array(0), next: start };
}

function readHeader(bytes: Uint8Array, at: number, log: ProblemLog): Header {
  const stated = at + 8 <= bytes.length ? readUint32(bytes, at + 4) : 0;
  const body = at + 8;
  const track = findId(bytes, MTrk, at + 4);
  // A length that passes over the first track, or ends inside the header, is not believed.
  const length = track !== -1 && body + stated > track ? Math.max(0, track - body) : Math.min(stated, Math.max(0, bytes.length - body));
  if (length !== stated && length >= 6) log.add({ code: 'chunk-length', where: { chunk: 'MThd', byte: at + 4 }, stated, used: length });
  if (length < 6) {
    log.add({ code: 'header-short', where: { chunk: 'MThd', byte: at }, length });
    return { format: length >= 2 ? readUint16(bytes, body) : 1, stated: -1, division: fallbackDivision, extra: new Uint8Array(0), next: body + length };
  }
  const word = readUint16(bytes, body + 4);
  const division = divisionOf(word);
  if (!division) log.add({ code: 'division-invalid', where: { chunk: 'MThd', byte: body + 4 }, division: word, taken: 480 });
  return {
    format: readUint16(bytes, body),
    stated: readUint16(bytes, body + 2),
    division: division ?? fallbackDivision,
    extra: bytes.slice(body + 6, body + length),
    next: body + length,
  };
}

function settleFormat(header: Header, tracks: number, log: ProblemLog): 0 | 1 | 2 {
  if (header.stated !== -1 && header.stated !== tracks) log.add({ code: 'track-count', where: { chunk: 'MThd' }, stated: header.stated, found: tracks });
  const { format } = header;
  if (format > 2) log.add({ code: 'format-unknown', where: { chunk: 'MThd' }, format, taken: tracks === 1 ? 0 : 1 });
  if (format === 0 && tracks > 1) log.add({ code: 'format0-many-tracks', where: { chunk: 'MThd' }, tracks });
  if (format === 0 || format > 2) return tracks === 1 ? 0 : 1;
  return format as 1 | 2;
}

interface Chunks {
  readonly tracks: SmfTrack[];
  readonly alienChunks: AlienChunk[];
}

function readChunks(bytes: Uint8Array, from: number, log: ProblemLog): Chunks | 'too many' {
  const chunks: Chunks = { tracks: [], alienChunks: [] };
  let events = 0;
  for (let at = from; at < bytes.length; ) {
    if (isTrackAt(bytes, at)) {
      const reading = readTrackChunk(bytes, at, chunks.tracks.length + 1, log);
      chunks.tracks.push(reading.track);
      events += reading.track.events.count;
      if (events > mostEvents) return 'too many';
      at = reading.next;
    } else if (isChunkAt(bytes, at) && readUint32(bytes, at) !== MThd) {
      const length = readUint32(bytes, at + 4);
      chunks.alienChunks.push({ beforeTrack: chunks.tracks.length, id: chunkId(bytes, at), body: bytes.slice(at + 8, at + 8 + length) });
      at += 8 + length;
    } else {
      at = passOver(bytes, at, log);
    }
  }
  return chunks;
}

function passOver(bytes: Uint8Array, at: number, log: ProblemLog): number {
  const next = findId(bytes, MTrk, at + 1);
  const to = next === -1 || next + 8 > bytes.length ? bytes.length : next;
  log.add({ code: 'bytes-between-chunks', where: { byte: at }, bytes: to - at });
  return to;
}

/** One MTrk chunk. Its stated length is believed only where something that can follow a chunk does follow. */
function readTrackChunk(bytes: Uint8Array, at: number, number: number, log: ProblemLog): { track: SmfTrack; next: number } {
  const stated = readUint32(bytes, at + 4);
  const body = at + 8;
  const believed = body + stated === bytes.length || isChunkAt(bytes, body + stated) || endsInEndOfTrack(bytes, body, body + stated);
  const end = believed ? body + stated : likelyEnd(bytes, body);
  const trackLog = new TrackLog(log, number);
  const cut = body + stated > bytes.length && end === bytes.length;
  if (cut) trackLog.unsound({ code: 'chunk-cut', where: trackLog.at(at + 4), stated, present: bytes.length - body });
  else if (!believed) trackLog.sound = false;
  const { events, next } = readTrack(bytes, body, end, trackLog);
  if (next < end) trackLog.sound = false;
  const to = settleEnd(bytes, { at, body, stated, end, next, lengthWrong: !believed && !cut }, trackLog);
  const track = trackLog.sound ? { events, body: bytes.subarray(body, end) } : { events };
  return { track, next: to };
}

const endsInEndOfTrack = (bytes: Uint8Array, body: number, end: number): boolean =>
  end <= bytes.length && end - 3 >= body && bytes[end - 3] === 0xff && bytes[end - 2] === 0x2f && bytes[end - 1] === 0;

/** Where a chunk of unknown length ends: before the next track that follows an end of track, or at the end of the file. */
function likelyEnd(bytes: Uint8Array, body: number): number {
  for (let next = findId(bytes, MTrk, body); next !== -1; next = findId(bytes, MTrk, next + 1)) {
    if (endsInEndOfTrack(bytes, body, next)) return next;
  }
  return bytes.length;
}

interface ChunkEnds {
  at: number;
  body: number;
  stated: number;
  end: number;
  next: number;
  /** The stated length is not what the bytes show, and the file does not simply end too soon. */
  lengthWrong: boolean;
}

/** Says what stood between the last event and the chunk's end; gives the place where the next chunk is looked for. */
function settleEnd(bytes: Uint8Array, ends: ChunkEnds, log: TrackLog): number {
  const { at, body, stated, end, next, lengthWrong } = ends;
  if (lengthWrong || (next < end && isTrackAt(bytes, next))) {
    log.odd({ code: 'chunk-length', where: log.at(at + 4), stated, used: next - body });
    return next;
  }
  if (next < end) log.odd({ code: 'bytes-after-end', where: log.at(next), bytes: end - next });
  return end;
}

/** Events of a sound track body, such as `writeTrack` makes and the store keeps. */
export function readTrackBody(body: Uint8Array): Events {
  return readTrack(body, 0, body.length, new TrackLog(new ProblemLog(), 1)).events;
}
