import { sameBytes } from '../smf/chunks.ts';
import { sameEvents } from '../smf/compare.ts';
import { divisionWord } from '../smf/division.ts';
import { readSmf } from '../smf/read.ts';
import type { Smf } from '../smf/smf.ts';

/** What came of reading a written file back. */
export interface Proof {
  readonly holds: boolean;
  readonly tracks: number;
  readonly events: number;
  /** What differs, empty where the proof holds. */
  readonly differences: readonly string[];
}

/** Reads the written bytes and holds every event, chunk and the division against what was meant. */
export function proveFile(bytes: Uint8Array, meant: Smf): Proof {
  const reading = readSmf(bytes);
  if (!reading.ok)
    return { holds: false, tracks: 0, events: 0, differences: [reading.problem.code] };
  const { smf } = reading.value;
  const differences: string[] = [];
  if (smf.format !== meant.format)
    differences.push(`format ${smf.format} instead of ${meant.format}`);
  if (divisionWord(smf.division) !== divisionWord(meant.division))
    differences.push('another division');
  if (smf.tracks.length !== meant.tracks.length)
    differences.push(`${smf.tracks.length} tracks instead of ${meant.tracks.length}`);
  meant.tracks.forEach((track, index) => {
    const back = smf.tracks[index];
    if (back && !sameEvents(track.events, back.events))
      differences.push(`track ${index + 1} differs`);
  });
  const chunks =
    meant.alienChunks.length === smf.alienChunks.length &&
    meant.alienChunks.every(
      (c, i) => c.id === smf.alienChunks[i]!.id && sameBytes(c.body, smf.alienChunks[i]!.body),
    );
  if (!chunks) differences.push('other chunks differ');
  const events = smf.tracks.reduce((sum, t) => sum + t.events.count, 0);
  return { holds: differences.length === 0, tracks: smf.tracks.length, events, differences };
}
