import { MThd, MTrk, findId, isTrackAt, readUint16, readUint32 } from './chunks.ts';
import { divisionOf } from './division.ts';
import { beginsCleanly } from './resync.ts';

/**
 * The next place of something at or after another. Remembers the last answer, so that asking from
 * everywhere costs one pass over the file.
 */
class Finder {
  private asked = 0;
  private found = -1;
  private readonly look: (from: number) => number;

  constructor(look: (from: number) => number) {
    this.look = look;
  }

  /** -1 where there is none. */
  next(from: number): number {
    if (from < this.asked || from > this.found) {
      const place = this.look(from);
      this.asked = from;
      this.found = place === -1 ? Infinity : place;
    }
    return this.found === Infinity ? -1 : this.found;
  }
}

/** What is looked for in a file that is not as it should be: heads of tracks and of whole files. */
export class Landmarks {
  private readonly bytes: Uint8Array;
  private readonly tracks: Finder;
  private readonly ended: Finder;
  private readonly files: Finder;

  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
    this.tracks = new Finder((from) => findId(bytes, MTrk, from));
    this.ended = new Finder((from) => this.search(from, MTrk, (at) => endsInEndOfTrack(bytes, at)));
    this.files = new Finder((from) => this.search(from, MThd, (at) => isWholeFileAt(bytes, at)));
  }

  /** Next MTrk. */
  track(from: number): number {
    return this.tracks.next(from);
  }

  /** Next MTrk that an end of track stands before. */
  trackAfterEnd(from: number): number {
    return this.ended.next(from);
  }

  /** Next MThd that a whole file begins with: what only bears the name is passed. */
  file(from: number): number {
    return this.files.next(from);
  }

  private search(from: number, id: number, is: (at: number) => boolean): number {
    let at = findId(this.bytes, id, from);
    while (at !== -1 && !is(at)) at = findId(this.bytes, id, at + 1);
    return at;
  }
}

/** Whether an end of track stands before `at`. */
export const endsInEndOfTrack = (bytes: Uint8Array, at: number): boolean =>
  at >= 3 && bytes[at - 3] === 0xff && bytes[at - 2] === 0x2f && bytes[at - 1] === 0;

/** A header that can be believed, and a track behind it that begins as one. */
export function isWholeFileAt(bytes: Uint8Array, at: number): boolean {
  if (at + 22 > bytes.length || readUint32(bytes, at) !== MThd) return false;
  const body = at + 8;
  const length = readUint32(bytes, at + 4);
  if (length < 6 || !isTrackAt(bytes, body + length)) return false;
  return (
    readUint16(bytes, body) <= 2 &&
    divisionOf(readUint16(bytes, body + 4)) !== undefined &&
    beginsCleanly(bytes, body + length + 8)
  );
}

/** Four letters of which one is a bit or only the case off MTrk, so that they were meant as it. */
export function isNearTrackId(id: number): boolean {
  const off = id ^ MTrk;
  return (off & (off - 1)) === 0 || (id | 0x20202020) >>> 0 === (MTrk | 0x20202020) >>> 0;
}
