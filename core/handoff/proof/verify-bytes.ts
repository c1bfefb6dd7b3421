import type { Division } from '../../smf/division.ts';
import { payloadOf, type Events } from '../../smf/events.ts';
import type { Smf } from '../../smf/smf.ts';
import { isSameBytes } from './reading/same-bytes.ts';
import { chunksOf, TrackWalk, type Chunk } from './second-reader.ts';

/** What came of reading a written file back. */
export interface Proof {
  readonly holds: boolean;
  readonly tracks: number;
  readonly events: number;
  /** What differs, empty where the proof holds. */
  readonly differences: readonly string[];
}

/** Reads the written bytes by a second reader and holds every event, chunk and the division against what was meant. */
export function verifyBytes(bytes: Uint8Array, meant: Smf): Proof {
  const differences: string[] = [];
  let [tracks, events] = [0, 0];
  try {
    const [head, ...chunks] = chunksOf(bytes);
    const parts = chunks.filter((c) => c.id === 'MTrk');
    tracks = parts.length;
    differences.push(
      ...headDifferences(bytes, head, meant, tracks),
      ...otherDifferences(bytes, chunks, meant),
    );
    for (const [n, track] of meant.tracks.entries()) {
      const part = parts[n];
      const read = part ? compareEvents(bytes, part, track.events) : undefined;
      events += read?.events ?? 0;
      if (!read) differences.push(`track ${n + 1} is missing`);
      else if (read.differsAt !== undefined)
        differences.push(`track ${n + 1} differs at tick ${read.differsAt}`);
    }
  } catch (error) {
    differences.push((error as Error).message);
  }
  return { holds: differences.length === 0, tracks, events, differences };
}

function headDifferences(
  bytes: Uint8Array,
  head: Chunk | undefined,
  meant: Smf,
  tracks: number,
): string[] {
  if (head?.id !== 'MThd') return ['no header'];
  const word = (at: number): number => (bytes[head.from + at]! << 8) | bytes[head.from + at + 1]!;
  const found: string[] = [];
  if (word(0) !== meant.format) found.push(`format ${word(0)} instead of ${meant.format}`);
  if (word(4) !== wordOf(meant.division)) found.push('another division');
  if (tracks !== meant.tracks.length || word(2) !== tracks)
    found.push(`${tracks} tracks instead of ${meant.tracks.length}`);
  if (!isSameBytes(bytes.subarray(head.from + 6, head.to), meant.headerExtra))
    found.push('other header bytes differ');
  return found;
}

/** Chunks of other kinds: the same, in the same places. */
function otherDifferences(bytes: Uint8Array, chunks: readonly Chunk[], meant: Smf): string[] {
  let before = 0;
  const others = chunks.flatMap((chunk) => {
    if (chunk.id === 'MTrk') before++;
    return chunk.id === 'MTrk' ? [] : [{ chunk, before }];
  });
  const alike =
    others.length === meant.alienChunks.length &&
    meant.alienChunks.every(({ id, body, beforeTrack }, n) => {
      const { chunk, before: at } = others[n]!;
      return (
        chunk.id === id &&
        at === Math.min(beforeTrack, meant.tracks.length) &&
        isSameBytes(bytes.subarray(chunk.from, chunk.to), body)
      );
    });
  return alike ? [] : ['other chunks differ'];
}

/** Passes a track as read and as meant side by side. @returns the tick of the first event that differs */
function compareEvents(
  bytes: Uint8Array,
  chunk: Chunk,
  meant: Events,
): { differsAt: number | undefined; events: number } {
  const walk = new TrackWalk(bytes, chunk);
  let n = 0;
  let differsAt: number | undefined;
  for (; walk.next(); n++) {
    if (differsAt !== undefined) continue;
    const isAlike =
      n < meant.count &&
      walk.tick === meant.atTick[n] &&
      walk.status === meant.status[n] &&
      walk.data1 === meant.data1[n] &&
      walk.data2 === meant.data2[n] &&
      (walk.status < 0xf0 || isSameBytes(bytes.subarray(walk.from, walk.to), payloadOf(meant, n)));
    if (!isAlike) differsAt = walk.tick;
  }
  if (n < meant.count) differsAt ??= meant.atTick[n]!;
  return { differsAt, events: n };
}

/** The division as the header says it (SMF 1.0): ticks a quarter, or minus the frames a second and ticks a frame. */
const wordOf = (division: Division): number =>
  division.kind === 'ppq'
    ? division.ticksPerQuarter
    : (256 - division.framesPerSecond) * 256 + division.ticksPerFrame;
