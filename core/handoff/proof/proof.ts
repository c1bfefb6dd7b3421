import { sameBytes } from '../../smf/chunks.ts';
import { divisionWord } from '../../smf/division.ts';
import { payloadOf, type Events } from '../../smf/events.ts';
import type { Smf } from '../../smf/smf.ts';
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
export function proveFile(bytes: Uint8Array, meant: Smf): Proof {
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
      const read = part ? eventsAlike(bytes, part, track.events) : undefined;
      events += read?.events ?? 0;
      if (!read?.alike) differences.push(`track ${n + 1} differs`);
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
  if (word(4) !== divisionWord(meant.division)) found.push('another division');
  if (tracks !== meant.tracks.length || word(2) !== tracks)
    found.push(`${tracks} tracks instead of ${meant.tracks.length}`);
  if (!sameBytes(bytes.subarray(head.from + 6, head.to), meant.headerExtra))
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
        sameBytes(bytes.subarray(chunk.from, chunk.to), body)
      );
    });
  return alike ? [] : ['other chunks differ'];
}

function eventsAlike(
  bytes: Uint8Array,
  chunk: Chunk,
  meant: Events,
): { alike: boolean; events: number } {
  const walk = new TrackWalk(bytes, chunk);
  let n = 0;
  let alike = true;
  for (; walk.next(); n++)
    alike &&=
      n < meant.count &&
      walk.tick === meant.atTick[n] &&
      walk.status === meant.status[n] &&
      walk.data1 === meant.data1[n] &&
      walk.data2 === meant.data2[n] &&
      (walk.status < 0xf0 || sameBytes(bytes.subarray(walk.from, walk.to), payloadOf(meant, n)));
  return { alike: alike && n === meant.count, events: n };
}
