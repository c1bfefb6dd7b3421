import { MThd, MTrk, chunkId, findId, isChunkAt, isTrackAt, readUint32 } from './chunks.ts';
import type { Events } from './events.ts';
import type { Header } from './header.ts';
import { endsInEndOfTrack, isNearTrackId, isWholeFileAt, type Landmarks } from './landmarks.ts';
import { TrackLog, type Effort, type ProblemLog } from './problem-log.ts';
import { readTrack } from './read-track.ts';
import { runsCleanly, troubleFrom } from './resync.ts';
import { bridgedAgain } from './bridges.ts';
import { mendTrack, type FirstReading } from './salvage/mend-track.ts';
import { wipedRows, withoutWiped } from './salvage/wiped.ts';
import type { AlienChunk, SmfTrack } from './smf.ts';

export interface Chunks {
  readonly tracks: readonly SmfTrack[];
  readonly alienChunks: readonly AlienChunk[];
  readonly events: number;
  /** Where another whole file begins; -1 where none does. */
  readonly nextFile: number;
}

/** Chunks of all kinds: as many tracks as a header can count (SMF 1.0). */
export const mostChunks = 65_535;

/** Reads chunks from behind a header to the end of the bytes or to the next file in them. */
export function readChunks(
  bytes: Uint8Array,
  header: Header,
  marks: Landmarks,
  log: ProblemLog,
  effort: Effort,
): Chunks {
  const tracks: SmfTrack[] = [];
  const first: FirstReading[] = [];
  const alienChunks: AlienChunk[] = [];
  let events = 0;
  let at = header.next;
  const take = ({ track, next, from, to, damaged, missing }: TrackChunk): number => {
    tracks.push(track);
    first.push({ events: track.events, body: from, end: to, damaged, missing });
    events += track.events.count;
    return next;
  };
  while (
    at < bytes.length &&
    tracks.length + alienChunks.length <= mostChunks &&
    !isWholeFileAt(bytes, at)
  ) {
    if (header.held && tracks.length === header.stated) break;
    const number = tracks.length + 1;
    if (isTrackAt(bytes, at))
      at = take(readTrackChunk(bytes, at, marks, new TrackLog(log, number, effort)));
    else if (isMeantAsTrack(bytes, at, effort)) {
      log.add({
        code: 'track-id',
        where: { chunk: 'MTrk', track: number, byte: at },
        id: shownId(bytes, at),
      });
      at = take(readTrackChunk(bytes, at, marks, new TrackLog(log, number, effort)));
    } else if (readUint32(bytes, at) !== MThd && isOtherChunkAt(bytes, at, effort)) {
      const length = readUint32(bytes, at + 4);
      alienChunks.push({
        beforeTrack: tracks.length,
        id: chunkId(bytes, at),
        body: bytes.slice(at + 8, at + 8 + length),
      });
      at += 8 + length;
    } else {
      at = passOver(bytes, at, marks, log, (from, to) => {
        const headless = headlessTrack(bytes, from, to, new TrackLog(log, number, effort));
        if (headless) take(headless);
      });
    }
  }
  mendDamaged(bytes, { tracks, first }, header.division, log, effort);
  return {
    tracks: tracks.map((t) => (t.body ? t : { events: bridgedAgain(t.events) })),
    alienChunks,
    events,
    nextFile: marks.file(at),
  };
}

/**
 * Whether a chunk of another kind begins here. Four bytes of a track may look like its name by chance: such
 * a one would hold the end of that track, and other tracks.
 */
function isOtherChunkAt(bytes: Uint8Array, at: number, effort: Effort): boolean {
  if (!isChunkAt(bytes, at)) return false;
  const end = at + 8 + readUint32(bytes, at + 4);
  if (!effort.spend(end - at)) return true;
  const track = findId(bytes.subarray(0, end), MTrk, at + 8);
  return track === -1 || !endsInEndOfTrack(bytes, track);
}

/** Reads damaged tracks again, in the light of those that are whole; in the place of those that were read first. */
function mendDamaged(
  bytes: Uint8Array,
  { tracks, first }: { readonly tracks: SmfTrack[]; readonly first: readonly FirstReading[] },
  division: Header['division'],
  log: ProblemLog,
  effort: Effort,
): void {
  const sound = first.filter((t) => !t.damaged);
  for (const [n, track] of first.entries()) {
    if (!track.damaged) continue;
    const mended = mendTrack(bytes, track, sound, division, effort);
    const events = withoutWiped(mended?.events ?? track.events);
    if (events === track.events) continue;
    if (mended?.moved)
      log.add({
        code: 'time-lost',
        where: { chunk: 'MTrk', track: n + 1, tick: mended.moved.atTick },
        ticks: mended.moved.ticks,
      });
    if (!mended?.moved || mended.lost > 0)
      log.add({
        code: 'track-damaged',
        where: { chunk: 'MTrk', track: n + 1, byte: mended?.at ?? track.body },
        bytes: mended?.lost ?? 0,
      });
    tracks[n] = { events };
  }
}

/** Passes to the next track or file. What lies between may be a track whose head is damaged. */
function passOver(
  bytes: Uint8Array,
  at: number,
  marks: Landmarks,
  log: ProblemLog,
  between: (from: number, to: number) => void,
): number {
  const track = marks.track(at + 1);
  const file = marks.file(at + 1);
  const ends = [track, file].filter((place) => place !== -1 && place + 8 <= bytes.length);
  const to = Math.min(bytes.length, ...ends);
  log.add({ code: 'bytes-between-chunks', where: { byte: at }, bytes: to - at });
  between(at, to);
  return to;
}

/** Bytes in which a damaged head of a track may end, with what else of it was damaged. */
const longestHead = 64;
/** A head has eight bytes; with fewer than so many more behind it no track of its own follows. */
const shortestTrack = 8 + 16;

/** A track whose head is damaged: events run from soon behind it to where the next chunk begins. */
function headlessTrack(
  bytes: Uint8Array,
  at: number,
  to: number,
  log: TrackLog,
): TrackChunk | undefined {
  if (!endsInEndOfTrack(bytes, to)) return undefined;
  const bodies = Array.from({ length: longestHead - 3 }, (_, n) => at + 4 + n).filter(
    (body) => body <= to - 4,
  );
  // Behind its own length a track begins for sure; else the longest run is the track: a later beginning would lose events.
  const sure = bodies.filter((body) => readUint32(bytes, body - 4) === to - body);
  for (const body of [...sure, ...bodies]) {
    if (!runsCleanly(bytes, body, to, log.effort)) continue;
    log.unsound({ code: 'track-head', where: log.at(at) });
    return {
      track: { events: readTrack(bytes, body, to, log).events },
      next: to,
      from: body,
      to,
      damaged: log.damaged,
      missing: 0,
    };
  }
  return undefined;
}

/** Whether a chunk bears a name that was meant as MTrk, and events run to its end. */
function isMeantAsTrack(bytes: Uint8Array, at: number, effort: Effort): boolean {
  if (at + 12 > bytes.length || !isNearTrackId(readUint32(bytes, at))) return false;
  const end = at + 8 + readUint32(bytes, at + 4);
  return end <= bytes.length && runsCleanly(bytes, at + 8, end, effort);
}

/** Four bytes as text, what cannot be shown as a dot. */
const shownId = (bytes: Uint8Array, at: number): string =>
  chunkId(bytes, at).replace(/[^\x21-\x7e]/g, '·');

interface TrackChunk {
  readonly track: SmfTrack;
  readonly next: number;
  /** Where its events lie. */
  readonly from: number;
  readonly to: number;
  readonly damaged: boolean;
  readonly missing: number;
}

/** One MTrk chunk. Its stated length is believed only where something that can follow a chunk does follow. */
function readTrackChunk(
  bytes: Uint8Array,
  at: number,
  marks: Landmarks,
  trackLog: TrackLog,
): TrackChunk {
  const stated = readUint32(bytes, at + 4);
  const body = at + 8;
  const believed =
    body + stated === bytes.length ||
    isTrackAt(bytes, body + stated) ||
    isOtherChunkAt(bytes, body + stated, trackLog.effort) ||
    (stated >= 3 && body + stated <= bytes.length && endsInEndOfTrack(bytes, body + stated));
  const farEnd = believed ? body + stated : likelyEnd(bytes, body, marks);
  const wiped = !believed && isHeadWipedAt(bytes, body, body + stated, farEnd, trackLog.effort);
  const end = wiped ? body + stated : farEnd;
  const cut = body + stated > bytes.length && end === bytes.length;
  if (cut)
    trackLog.unsound({
      code: 'chunk-cut',
      where: trackLog.at(at + 4),
      stated,
      present: bytes.length - body,
    });
  else if (!believed) trackLog.sound = false;
  const { events, next } = readTrack(bytes, body, end, trackLog);
  if (next < end) trackLog.sound = false;
  const to = settleEnd(
    bytes,
    { at, body, stated, end, next, lengthWrong: !believed && !cut && !wiped },
    trackLog,
  );
  const track = trackLog.sound ? { events, body: bytes.subarray(body, end) } : { events };
  return {
    track,
    next: to,
    from: body,
    to: end,
    ...signs(
      trackLog,
      events,
      stated - (end - body),
      believed,
      cut && !endsInEndOfTrack(bytes, end),
    ),
  };
}

/**
 * Whether a damage lies over the stated end of a track and the head of the next one: events run well until
 * shortly before that end, and from shortly behind it to the end of another track.
 */
function isHeadWipedAt(
  bytes: Uint8Array,
  body: number,
  stated: number,
  farEnd: number,
  effort: Effort,
): boolean {
  if (stated + shortestTrack > farEnd || !endsInEndOfTrack(bytes, farEnd)) return false;
  if (Math.abs(troubleFrom(bytes, body, farEnd, effort) - stated) > longestHead) return false;
  return Array.from({ length: longestHead - 8 }, (_, n) => stated + 8 + n).some(
    (at) => at + 3 < farEnd && runsCleanly(bytes, at, farEnd, effort),
  );
}

/** Far from what is there, a length is damaged itself and says nothing of the bytes. */
const nearLength = 256;

/** Whether something happened to the bytes of a track, and how many of them its length misses. */
function signs(
  { damaged, torn }: TrackLog,
  events: Events,
  missing: number,
  believed: boolean,
  cut: boolean,
): Pick<FirstReading, 'damaged' | 'missing'> {
  const near = !believed && !cut && Math.abs(missing) <= nearLength ? missing : 0;
  return {
    damaged: damaged || near !== 0 || (torn && !cut) || wipedRows(events).length > 0,
    missing: near,
  };
}

/**
 * Where a chunk of unknown length ends: before the next track that follows an end of track, or at the end
 * of the file.
 */
function likelyEnd(bytes: Uint8Array, body: number, marks: Landmarks): number {
  const next = marks.trackAfterEnd(body);
  return next === -1 ? bytes.length : next;
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
