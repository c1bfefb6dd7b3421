import type { Song } from '../../song/song.ts';
import type { Wanted } from '../settings.ts';
import { leadsWithMap } from './reading/song-map.ts';
import { isSameBytes } from './reading/same-bytes.ts';
import { chunksOf, TrackWalk, type Chunk } from './second-reader.ts';

/** A written file, with what it was made of. */
export interface ContainerCase {
  readonly bytes: Uint8Array;
  readonly name: string;
  /** What the plan calls it. */
  readonly planned: string;
  /** The part before it was laid out. */
  readonly leaving: Song;
  readonly wanted: Wanted;
  /** The song as it is: a part has no wrapper. */
  readonly isWhole: boolean;
  /** Of each track of the file, whether its very bytes were received. */
  readonly isReceived: readonly boolean[];
}

/** The file around the events, by the settings alone: format, resolution, tracks, other chunks, wrapper, name. */
export function verifyContainer(of: ContainerCase): string[] {
  try {
    const [head, ...chunks] = chunksOf(of.bytes);
    if (!head) return ['the file has no header'];
    return [
      ...headDifferences(of, head, chunks),
      ...chunkDifferences(of, chunks),
      ...wrapperDifferences(of),
      ...statusDifferences(of, chunks),
      ...nameDifferences(of),
    ];
  } catch (error) {
    return [(error as Error).message];
  }
}

function headDifferences({ bytes, leaving, wanted }: ContainerCase, head: Chunk, chunks: Chunk[]) {
  const word = (at: number): number => bytes[head.from + at]! * 256 + bytes[head.from + at + 1]!;
  const { form } = wanted;
  const asked = form.format === 'as-received' ? leaving.format : form.format;
  const format = asked === 1 || asked === 'karaoke' ? 1 : 0;
  const merged = leadsWithMap(leaving) ? 2 : 1;
  const tracks = format === 0 ? 1 : form.tracks === 'one' ? merged : leaving.tracks.length;
  const there = chunks.filter((c) => c.id === 'MTrk').length;
  const differences: string[] = [];
  if (word(0) !== format) differences.push(`the file has format ${word(0)} instead of ${format}`);
  if (there !== tracks) differences.push(`the file has ${there} tracks instead of ${tracks}`);
  if (form.ppq !== null && word(4) !== form.ppq)
    differences.push(`the file has ${word(4)} ticks per quarter instead of ${form.ppq}`);
  return differences;
}

function chunkDifferences({ bytes, leaving, wanted }: ContainerCase, chunks: Chunk[]): string[] {
  const expected = wanted.form.chunks ? leaving.alienChunks : [];
  const found = chunks.filter((c) => c.id !== 'MTrk');
  const isSame =
    found.length === expected.length &&
    found.every(
      (c, n) =>
        c.id === expected[n]!.id && isSameBytes(bytes.subarray(c.from, c.to), expected[n]!.body),
    );
  if (!isSame)
    return [`the file has ${found.length} other chunks, not the ${expected.length} of the song`];
  const lastTrack = chunks.findLastIndex((c) => c.id === 'MTrk');
  const isLast =
    wanted.form.format === 'as-received' || found.every((c) => chunks.indexOf(c) > lastTrack);
  return isLast ? [] : ['the file has other chunks before its tracks'];
}

function wrapperDifferences({ bytes, leaving, wanted, isWhole }: ContainerCase): string[] {
  const isWrapped = String.fromCharCode(...bytes.subarray(0, 4)) === 'RIFF';
  const expected = isWhole && wanted.form.format === 'as-received' && leaving.wrapper !== undefined;
  if (isWrapped === expected) return [];
  return [expected ? 'the file lacks its RIFF wrapper' : 'the file has a RIFF wrapper'];
}

/** Tracks that were received leave as their very bytes; the others say their status as was asked for. */
function statusDifferences(
  { bytes, wanted, isReceived }: ContainerCase,
  chunks: Chunk[],
): string[] {
  return chunks
    .filter((c) => c.id === 'MTrk')
    .flatMap((chunk, n) => {
      if (isReceived[n]) return [];
      const walk = new TrackWalk(bytes, chunk);
      while (walk.next());
      const { runningStatus } = wanted.form;
      if (walk.usesRunningStatus && !runningStatus) return [`track ${n + 1} has running status`];
      return walk.repeatsStatus && runningStatus ? [`track ${n + 1} repeats status bytes`] : [];
    });
}

function nameDifferences({ name, planned, wanted }: ContainerCase): string[] {
  const { fileNames, ending, format } = wanted.form;
  const parted = (whole: string): string[] => [...(/^(.*)(\.[^.]*)$/.exec(whole) ?? [])];
  const [, stem = '', end = ''] = parted(name);
  const asked = ending ?? (format === 'karaoke' ? '.kar' : undefined);
  const isRight =
    stem === parted(planned)[1] &&
    (asked === undefined || end.toLowerCase() === asked.toLowerCase()) &&
    (fileNames !== '8.3' || /^[A-Z0-9_]{1,8}$/.test(stem)) &&
    (fileNames !== '16' || /^[ -~]{1,16}$/.test(stem));
  return isRight ? [] : [`the file is called ${name}`];
}
