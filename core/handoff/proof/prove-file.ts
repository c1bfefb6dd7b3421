import type { Smf } from '../../smf/smf.ts';
import type { Song } from '../../song/song.ts';
import type { Plan, PlannedFile } from '../plan.ts';
import type { Wanted } from '../settings.ts';
import { isUnconcerned } from './is-unconcerned.ts';
import { verifyBytes, type Proof } from './verify-bytes.ts';
import { verifyContainer } from './verify-container.ts';
import { verifyDrums } from './verify-drums.ts';
import { verifyLayout } from './verify-layout.ts';
import { verifyNames } from './verify-names.ts';
import { verifyPart } from './verify-part.ts';
import { readSections, verifyPlan } from './verify-plan.ts';
import { verifySent } from './verify-sent.ts';

/** A handoff before its files are made. */
interface PlannedHandoff {
  readonly plan: Plan;
  readonly wanted: Wanted;
  readonly source: Song;
}

/** A file that was made, and what it went through. */
interface MadeFile {
  readonly bytes: Uint8Array;
  readonly name: string;
  /** The part that leaves, and the same with gaps bridged that no file can say. */
  readonly leaving: Song;
  readonly written: Song;
  readonly laid: Smf;
  /** The song as its file was read, whose order on a tick a file of one track keeps. */
  readonly asRead: Pick<Song, 'format' | 'tracks'>;
}

export const proveNothing: Proof = { holds: false, tracks: 0, events: 0, differences: [] };

/** What is verified of a whole handoff is verified once. */
const verifiedPlans = new WeakMap<Plan, readonly string[]>();

function verifyHandoff({ plan, wanted, source }: PlannedHandoff): readonly string[] {
  const known = verifiedPlans.get(plan);
  if (known) return known;
  const { song: sent, parents, files } = plan;
  const differences = [
    ...verifySent(source, sent, parents),
    ...verifyDrums(source, sent, parents, wanted),
    ...verifyPlan({ source, sent, parents, files, wanted }),
    ...verifyNames({ sent, files, wanted, sections: readSections(source) }),
  ];
  verifiedPlans.set(plan, differences);
  return differences;
}

/** Whether what leaves is the song from its beginning to its end, its tracks the very objects. */
const isVerySong = (sent: Song, { tracks, span }: PlannedFile, { division, ...leaving }: Song) =>
  tracks === undefined &&
  span === undefined &&
  sent.division === division &&
  sent.tracks.length === leaving.tracks.length &&
  sent.tracks.every((track, n) => track === leaving.tracks[n]);

/**
 * Proves one file of a handoff, gate by gate: what is sent against the song, the files against what was
 * asked for, the part against what is sent, the layout against the part, the bytes against the layout, and
 * the file around them against the settings. Shares no code with what makes files (decision 26).
 */
export function proveFile(planned: PlannedHandoff, file: PlannedFile, made: MadeFile): Proof {
  const { plan, wanted } = planned;
  const { bytes, name, leaving, written, laid, asRead } = made;
  const isWhole = isVerySong(plan.song, file, leaving);
  const read = verifyBytes(bytes, laid);
  const isTouched = !isWhole || !isUnconcerned(plan.song, wanted);
  const differences = [
    ...read.differences,
    ...verifyHandoff(planned),
    ...(isTouched ? verifyPart(plan.song, file, wanted, leaving) : []),
    ...verifyLayout({
      tracks: written.tracks,
      laid,
      wanted,
      keepsReceivedOrder: asRead.format !== 1 && asRead.tracks.length === 1,
    }),
    ...verifyContainer({
      bytes,
      name,
      planned: file.name,
      leaving,
      wanted,
      isWhole,
      isReceived: laid.tracks.map((t) => t.body !== undefined),
    }),
  ];
  return { ...read, holds: differences.length === 0, differences };
}
