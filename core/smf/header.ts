import { MThd, isTrackAt, readUint16, readUint32 } from './chunks.ts';
import { divisionOf, type Division } from './division.ts';
import type { Landmarks } from './landmarks.ts';
import { signatureOf } from './looks-like.ts';
import type { ProblemLog } from './problem-log.ts';
import { beginsCleanly } from './resync.ts';

export interface Header {
  readonly format: number;
  /** Number of tracks that the header states; -1 where there is none that can be believed. */
  readonly stated: number;
  readonly division: Division;
  readonly extra: Uint8Array;
  /** Place of the first byte behind the header. */
  readonly next: number;
  /** The file lies within another kind of file: its tracks are counted, what follows is not its own. */
  readonly held: boolean;
}

const fallbackDivision: Division = { kind: 'ppq', ticksPerQuarter: 480 };
const noBytes = new Uint8Array(0);

/** The header of the file that begins at `from`, or lies somewhere behind; undefined where there is no MIDI. */
export function findHeader(
  bytes: Uint8Array,
  from: number,
  marks: Landmarks,
  log: ProblemLog,
): Header | undefined {
  if (isHeaderAt(bytes, from)) return readHeader(bytes, from, marks, log);
  const damaged = damagedHeader(bytes, from, marks, log);
  if (damaged) return damaged;
  const whole = marks.file(from);
  if (whole !== -1) return lateHeader(bytes, from, whole, marks, log);
  for (let at = marks.track(from); at !== -1; at = marks.track(at + 1)) {
    if (!beginsCleanly(bytes, at + 8)) continue;
    log.add({ code: 'header-missing', where: { chunk: 'MTrk', byte: at } });
    return {
      format: 1,
      stated: -1,
      division: fallbackDivision,
      extra: noBytes,
      next: at,
      held: false,
    };
  }
  return undefined;
}

const isHeaderAt = (bytes: Uint8Array, at: number): boolean =>
  at + 4 <= bytes.length && readUint32(bytes, at) === MThd;

function lateHeader(
  bytes: Uint8Array,
  from: number,
  at: number,
  marks: Landmarks,
  log: ProblemLog,
): Header {
  const holder = from === 0 ? signatureOf(bytes) : undefined;
  if (holder)
    log.add({ code: 'held-in', where: { chunk: 'MThd', byte: at }, looksLike: holder.looksLike });
  else log.add({ code: 'header-late', where: { chunk: 'MThd', byte: at }, bytes: at - from });
  return { ...readHeader(bytes, at, marks, log), held: true };
}

/** A header whose id or length is damaged, or that lost a byte, still states what it says before the first track. */
function damagedHeader(
  bytes: Uint8Array,
  from: number,
  marks: Landmarks,
  log: ProblemLog,
): Header | undefined {
  const track = marks.track(from);
  const fields = track - 6;
  if (track === -1 || fields < from + 4 || fields > from + 16 || !isPlausible(bytes, fields))
    return undefined;
  // Either the length before the fields is the usual one, or the fields stand where those of a usual header do.
  if (readUint32(bytes, fields - 4) !== 6 && fields !== from + 8) return undefined;
  log.add({ code: 'header-damaged', where: { chunk: 'MThd', byte: from } });
  return { ...fieldsAt(bytes, fields), extra: noBytes, next: track, held: false };
}

const isPlausible = (bytes: Uint8Array, at: number): boolean =>
  readUint16(bytes, at) <= 2 &&
  readUint16(bytes, at + 2) > 0 &&
  divisionOf(readUint16(bytes, at + 4)) !== undefined;

const fieldsAt = (
  bytes: Uint8Array,
  at: number,
): Pick<Header, 'format' | 'stated' | 'division'> => ({
  format: readUint16(bytes, at),
  stated: readUint16(bytes, at + 2),
  division: divisionOf(readUint16(bytes, at + 4)) ?? fallbackDivision,
});

function readHeader(bytes: Uint8Array, at: number, marks: Landmarks, log: ProblemLog): Header {
  const stated = at + 8 <= bytes.length ? readUint32(bytes, at + 4) : 0;
  const body = at + 8;
  const length = headerLength(bytes, at, stated, marks);
  if (length !== stated && length >= 6)
    log.add({ code: 'chunk-length', where: { chunk: 'MThd', byte: at + 4 }, stated, used: length });
  if (length < 6) return shortHeader(bytes, at, length, marks, log);
  const word = readUint16(bytes, body + 4);
  if (!divisionOf(word))
    log.add({
      code: 'division-invalid',
      where: { chunk: 'MThd', byte: body + 4 },
      division: word,
      taken: 480,
    });
  return {
    ...fieldsAt(bytes, body),
    extra: bytes.slice(body + 6, body + length),
    next: body + length,
    held: false,
  };
}

/** A length that passes over the first track, or ends before it inside the usual six bytes, is not believed. */
function headerLength(bytes: Uint8Array, at: number, stated: number, marks: Landmarks): number {
  const body = at + 8;
  if (stated < 6 && isTrackAt(bytes, body + 6)) return 6;
  const track = marks.track(at + 4);
  if (track !== -1 && body + stated > track) return Math.max(0, track - body);
  return Math.min(stated, Math.max(0, bytes.length - body));
}

/** A header of less than six bytes: one that lost a byte has its fields before the first track all the same. */
function shortHeader(
  bytes: Uint8Array,
  at: number,
  length: number,
  marks: Landmarks,
  log: ProblemLog,
): Header {
  const track = marks.track(at + 4);
  const next = track !== -1 && track <= at + 14 ? track : at + 8 + length;
  log.add({ code: 'header-short', where: { chunk: 'MThd', byte: at }, length });
  if (track !== -1 && track - 6 > at + 4 && isPlausible(bytes, track - 6))
    return { ...fieldsAt(bytes, track - 6), extra: noBytes, next, held: false };
  return {
    format: length >= 2 ? readUint16(bytes, at + 8) : 1,
    stated: -1,
    division: fallbackDivision,
    extra: noBytes,
    next,
    held: false,
  };
}
