import { EventBuilder } from './event-builder.ts';
import { META, SYSEX, SYSEX_PACKET, meta, type Events } from './events.ts';
import { wrongLength } from './meta-lengths.ts';
import { Effort, ProblemLog, TrackLog } from './problem-log.ts';
import { findResync, runsCleanly } from './resync.ts';
import { readQuantity } from './variable-length.ts';

export interface TrackReading {
  readonly events: Events;
  /** Place of the first byte that was not read. */
  readonly next: number;
  /** An end of track was found; where none was, one has been set at the last event. */
  readonly ended: boolean;
}

/** Where reading stands; passed between the fast and the careful reader. */
interface Cursor {
  at: number;
  tick: number;
  /** Channel status in force, 0 for none. */
  running: number;
  /** The last channel status seen, for files that let it run on after a meta event. */
  lastChannelStatus: number;
  ended: boolean;
}

/** Reads the events between `from` and `end` of a file's bytes; never fails, says in `log` what was mended. */
export function readTrack(
  bytes: Uint8Array,
  from: number,
  end: number,
  log: TrackLog,
): TrackReading {
  const out = new EventBuilder((end - from) / 3.5);
  const cursor: Cursor = { at: from, tick: 0, running: 0, lastChannelStatus: 0, ended: false };
  while (cursor.at < end && !cursor.ended) {
    readChannelMessages(bytes, end, cursor, out);
    if (cursor.at < end && out.count < out.status.length)
      readCarefully(bytes, end, cursor, out, log);
  }
  if (!cursor.ended) {
    log.unsound({ code: 'end-of-track-missing', where: log.at(cursor.at) });
    out.add(cursor.tick, META, meta.endOfTrack, 0);
  }
  log.close();
  return { events: out.finish(bytes), next: cursor.at, ended: cursor.ended };
}

/** A channel message with the longest time before it: four bytes, a status and two data bytes. */
const longestMessage = 7;

/**
 * The hot path: well-formed channel messages, nothing else. Stops before the first event it cannot vouch for,
 * which the careful reader then takes; the last few bytes are always left to that one. Local constants throughout:
 * fields, and arrays that may be exchanged within the loop, cost half the speed.
 */
function readChannelMessages(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
): void {
  if (out.count === out.status.length) out.grow();
  const { atTick, status: statuses, data1, data2 } = out;
  const safeEnd = end - longestMessage;
  const room = statuses.length;
  let { at, tick, running } = cursor;
  let n = out.count;
  while (at <= safeEnd && n < room) {
    // Whether a time has two bytes and whether a status is there cannot be foreseen by a processor: arithmetic
    // instead of branches for both, which costs a third of the time of guessing wrong.
    let delta = bytes[at]!;
    const two = delta >> 7;
    const low = bytes[at + 1]!;
    let next = at + 1 + two;
    if ((two & (low >> 7)) === 0) {
      delta = ((delta & 0x7f) << (two * 7)) | (low & 0x7f & -two);
    } else {
      delta = ((delta & 0x7f) << 7) | (low & 0x7f);
      let byte = low;
      for (let more = 2; byte > 0x7f && more > 0; more--)
        delta = (delta << 7) | ((byte = bytes[next++]!) & 0x7f);
      if (byte > 0x7f) break;
    }
    const stated = bytes[next]!;
    const fresh = stated >> 7;
    const status = (stated & -fresh) | (running & (fresh - 1));
    next += fresh;
    const first = bytes[next++]!;
    const second = (status & 0xe0) === 0xc0 ? 0 : bytes[next++]!;
    if ((first | second) > 0x7f || status >= 0xf0 || status === 0) break;
    at = next;
    running = status;
    tick += delta;
    atTick[n] = tick;
    statuses[n] = status;
    data1[n] = first;
    data2[n++] = second;
  }
  out.count = n;
  if (running !== 0) cursor.lastChannelStatus = running;
  cursor.at = at;
  cursor.tick = tick;
  cursor.running = running;
}

/**
 * Adds the one event that stands at `at`, of which it is known that it can be read, on a running status;
 * gives its tick.
 */
export function wholeEventAt(
  bytes: Uint8Array,
  at: number,
  end: number,
  tick: number,
  running: number,
  out: EventBuilder,
): number {
  const cursor: Cursor = { at, tick, running, lastChannelStatus: running, ended: false };
  readCarefully(bytes, end, cursor, out, new TrackLog(new ProblemLog(), 0, new Effort(0)));
  return cursor.tick;
}

/** One event of any kind, with every check. */
function readCarefully(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  const start = cursor.at;
  const delta = readQuantity(bytes, start, end);
  if (delta.cut || delta.next >= end) return cut(cursor, end, log, start);
  if (delta.tooLong) log.unsound({ code: 'delta-too-long', where: log.at(start) });
  cursor.at = delta.next;
  cursor.tick += delta.value;
  if (!findStatus(bytes, end, cursor, log)) return cut(cursor, end, log, start);
  const status = bytes[cursor.at]!;
  if (status === META) readMeta(bytes, end, cursor, out, log);
  else if (status === SYSEX || status === SYSEX_PACKET) readSysex(bytes, end, cursor, out, log);
  else if (status >= 0xf0) readStray(bytes, end, cursor, out, log);
  else readChannelMessage(bytes, end, cursor, out, log);
}

function cut(cursor: Cursor, end: number, log: TrackLog, start: number): void {
  log.unsound({ code: 'event-cut', where: log.at(start) });
  cursor.at = end;
}

/** Makes sure that a status is known for the event at the cursor; passes over data that belongs to none. */
function findStatus(bytes: Uint8Array, end: number, cursor: Cursor, log: TrackLog): boolean {
  if (bytes[cursor.at]! > 0x7f || cursor.running !== 0) return true;
  if (cursor.lastChannelStatus !== 0) {
    log.runningStatusAfterMeta(cursor.at);
    cursor.running = cursor.lastChannelStatus;
    return true;
  }
  const from = cursor.at;
  while (cursor.at < end && bytes[cursor.at]! < 0x80) cursor.at++;
  log.unsound({ code: 'status-missing', where: log.at(from), bytes: cursor.at - from });
  return cursor.at < end;
}

function readChannelMessage(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  const start = cursor.at;
  if (bytes[cursor.at]! > 0x7f) cursor.running = cursor.lastChannelStatus = bytes[cursor.at++]!;
  const status = cursor.running;
  const length = (status & 0xe0) === 0xc0 ? 1 : 2;
  if (cursor.at + length > end) return cut(cursor, end, log, start);
  const first = dataByte(bytes, cursor, log);
  const second = length === 2 ? dataByte(bytes, cursor, log) : 0;
  out.add(cursor.tick, status, first, second);
}

function dataByte(bytes: Uint8Array, cursor: Cursor, log: TrackLog): number {
  const value = bytes[cursor.at++]!;
  if (value < 0x80) return value;
  log.highDataByte(cursor.at - 1, value);
  return 0x7f;
}

/** System real-time and common messages have no place in files; an F7 packet is how the format carries their bytes. */
function readStray(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  const start = cursor.at;
  const status = bytes[start]!;
  const length = status === 0xf2 ? 3 : status === 0xf1 || status === 0xf3 ? 2 : 1;
  if (start + length > end) return cut(cursor, end, log, start);
  log.unsound({ code: 'status-not-in-files', where: log.at(start), status });
  cursor.at += length;
  out.addWithPayload(cursor.tick, SYSEX_PACKET, 0, start, cursor.at);
}

function readSysex(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  const start = cursor.at;
  cursor.running = 0;
  const body = payloadRange(bytes, end, cursor, log, start, start + 1);
  if (body) out.addWithPayload(cursor.tick, bytes[start]!, 0, body.from, body.to);
}

function readMeta(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  const start = cursor.at;
  cursor.running = 0;
  if (start + 1 >= end) return cut(cursor, end, log, start);
  const stated = bytes[start + 1]!;
  if (stated > 0x7f) log.highDataByte(start + 1, stated);
  const type = Math.min(stated, 0x7f);
  const body = payloadRange(bytes, end, cursor, log, start, start + 2);
  if (!body) return;
  const length = body.to - body.from;
  const usual = wrongLength(type, length);
  if (type === meta.endOfTrack && length > 0) log.sound = false;
  if (usual !== undefined)
    log.odd({ code: 'meta-length', where: log.at(start), meta: type, stated: length, usual });
  if (
    type === meta.tempo &&
    length === 3 &&
    (bytes[body.from]! | bytes[body.from + 1]! | bytes[body.from + 2]!) === 0
  )
    log.odd({ code: 'tempo-zero', where: log.at(start) });
  if (type === meta.endOfTrack) return endOfTrack(bytes, end, cursor, out, log);
  out.addWithPayload(cursor.tick, META, type, body.from, body.to);
}

function endOfTrack(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  out: EventBuilder,
  log: TrackLog,
): void {
  if (cursor.at < end && runsCleanly(bytes, cursor.at, end, log.effort)) {
    log.unsound({ code: 'end-of-track-early', where: log.at(cursor.at) });
    return;
  }
  out.add(cursor.tick, META, meta.endOfTrack, 0);
  cursor.ended = true;
}

/**
 * The bytes that a length at `at` announces; the cursor moves behind them. Undefined where the track does
 * not hold them.
 */
function payloadRange(
  bytes: Uint8Array,
  end: number,
  cursor: Cursor,
  log: TrackLog,
  start: number,
  at: number,
): { from: number; to: number } | undefined {
  const length = readQuantity(bytes, at, end);
  if (length.tooLong) log.unsound({ code: 'delta-too-long', where: log.at(at) });
  if (!length.cut && length.next + length.value <= end) {
    cursor.at = length.next + length.value;
    return { from: length.next, to: cursor.at };
  }
  log.unsound({
    code: 'length-too-long',
    where: log.at(start),
    stated: length.value,
    present: end - length.next,
  });
  const again = findResync(bytes, length.next, end, log.effort);
  cursor.at = again === -1 ? end : again;
  return undefined;
}
