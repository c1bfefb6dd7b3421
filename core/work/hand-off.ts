import { forecastOf } from '../handoff/forecast/forecast.ts';
import type { ForecastItem } from '../handoff/forecast/item.ts';
import type { Limits } from '../handoff/receiver/receiver.ts';
import { makeFile, planHandoff, type Before, type Planned } from '../handoff/handoff.ts';
import { makeSlip, type Slip } from '../handoff/slip.ts';
import type { HandoffAsked } from '../handoff/settings.ts';
import { ok, refused, type Result } from '../problems/problems.ts';
import { sameBytes } from '../smf/chunks.ts';
import type { Song } from '../song/song.ts';
import type { Events } from '../smf/events.ts';
import type { Blobs, Decoded, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { fromManifest } from './revision.ts';

/** What a handoff is planned from. */
export interface PlanInput {
  readonly manifest: Manifest;
  readonly blobs: Blobs;
  readonly settings: HandoffAsked;
  /** Ending of a file that leaves as received, and what {version} says. */
  readonly names: { readonly ending: string; readonly version: string };
}

export interface HandoffPlan {
  readonly song: string;
  readonly files: readonly string[];
  /** What is said of all files at once. */
  readonly notes: readonly string[];
}

/** What a forecast is made from. */
export interface ForecastInput extends PlanInput {
  /** What the receiver takes; everything, where it is left out. */
  readonly limits?: Limits;
}

/** What will not arrive, or arrives changed. */
export const forecast = (input: ForecastInput, ports: Ports): Result<ForecastItem[]> =>
  forecastOf(opener(input.blobs, ports)(input.manifest), input.settings, input.limits, input.names);

/** Some files of a handoff. */
export interface FilesInput extends PlanInput {
  /** The song as it came in, and as it was read, before anything: only the whole song is held against them. */
  readonly before?: { readonly received: Manifest; readonly asRead: Manifest };
  /** Which files, by their places in the plan. */
  readonly from: number;
  readonly to: number;
  readonly original: Uint8Array;
  /** A preview needs no proof. */
  readonly prove: boolean;
}

export interface FileMade {
  readonly bytes: Uint8Array;
  readonly sha256: string;
  readonly slip: Slip;
}

/** Which files a handoff has, and what does not leave. */
export function plan(input: PlanInput, ports: Ports): Result<HandoffPlan> {
  const open = opener(input.blobs, ports);
  const planned = planHandoff(open(input.manifest), input.settings, input.names);
  if (!planned.ok) return planned;
  const { plan: made, notes } = planned.value;
  return ok({ song: made.song.title, files: made.files.map((f) => f.name), notes });
}

/** Makes some files of a handoff. A file that does not hold what the song does stops it: that is a defect. */
export function files(input: FilesInput, ports: Ports): Result<FileMade[]> {
  const open = opener(input.blobs, ports);
  const song = open(input.manifest);
  const planned = planHandoff(song, input.settings, input.names);
  if (!planned.ok) return planned;
  const { before } = input;
  const was = before
    ? { received: open(before.received), asRead: open(before.asRead) }
    : { received: song, asRead: song };
  const made: FileMade[] = [];
  for (let n = input.from; n < input.to; n++) {
    const file = oneFile(planned.value, n, was, input, ports);
    if (!file.ok) return file;
    made.push(file.value);
  }
  return ok(made);
}

function oneFile(
  planned: Planned,
  n: number,
  before: Before,
  { original, prove }: FilesInput,
  ports: Ports,
): Result<FileMade> {
  const { plan: whole, notes } = planned;
  const made = makeFile(planned, whole.files[n]!, before, { prove });
  if (!made.ok) return made;
  const { bytes, name, proof } = made.value;
  if (prove && !proof.holds)
    return refused({
      code: 'handoff-unproven',
      where: { file: name },
      differences: proof.differences.join('; '),
    });
  const sha256 = ports.sha256(bytes);
  // Of a single file all that is said is said on its own slip.
  const all = whole.files.length === 1 ? [...made.value.notes, ...notes] : made.value.notes;
  const slip = makeSlip(
    whole.song,
    { ...made.value, notes: all },
    { name, sha256, sameAsOriginal: sameBytes(bytes, original) },
  );
  return ok({ bytes, sha256, slip });
}

/** Opens manifests. Equal tracks of several revisions are decoded once, and known to be equal by it. */
function opener(blobs: Blobs, ports: Ports): (manifest: Manifest) => Song {
  const decoded = new Map<string, Events>();
  const once: Decoded = {
    get: (blob) => decoded.get(blob) ?? ports.decoded.get(blob),
    set: (blob, events) => {
      decoded.set(blob, events);
      ports.decoded.set(blob, events);
    },
  };
  return (manifest) => fromManifest(manifest, { blobs }, { decoded: once, opened: new Map() }).song;
}
