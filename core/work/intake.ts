import { ok, type ReadingProblem, type Result } from '../problems/problems.ts';
import { readSmfs } from '../smf/read.ts';
import { songsFromSmfs } from '../song/from-smf.ts';
import type { Blobs, Ports } from './ports.ts';
import { splitAtIntake, splitsAtIntake } from './split-at-intake.ts';
import { revisionOf, takeStep, type MadeRevision, type StepRecord } from './step.ts';

/** A song as a file gives it: the file as it was read, and the step taken at intake, if any. */
export interface NewSong {
  readonly first: MadeRevision;
  readonly split?: MadeRevision & { readonly step: StepRecord };
}

export interface Intake {
  readonly songs: readonly NewSong[];
  readonly blobs: Blobs;
  readonly problems: readonly ReadingProblem[];
  readonly sha256: string;
}

/** Reads a file into songs ready to be stored; the split is a step that can be undone. */
export function readFile(
  { bytes, fileName }: { bytes: Uint8Array; fileName: string },
  ports: Ports,
): Result<Intake> {
  const readings = readSmfs(bytes);
  if (!readings.ok) return readings;
  const blobs: Blobs = new Map();
  const unsplit: ReadingProblem[] = [];
  const songs = songsFromSmfs(readings.value, fileName).map((song): NewSong => {
    const first = revisionOf(song, blobs, ports);
    const split = splitsAtIntake(song) ? takeStep(song, splitAtIntake, blobs, ports) : undefined;
    if (split?.ok === false) unsplit.push({ code: 'not-split', where: {} });
    if (!split?.ok || !split.value.changed) return { first };
    const { manifest, view, facts, step } = split.value;
    return { first, split: { manifest, view, facts, step } };
  });
  return ok({
    songs,
    blobs,
    problems: [...readings.value.flatMap((r) => r.problems), ...unsplit],
    sha256: ports.sha256(bytes),
  });
}
