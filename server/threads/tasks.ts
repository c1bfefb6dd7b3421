import { mapAlone } from '#core/handoff/map-alone.ts';
import { makeHandoff, type HandoffSettings } from '#core/handoff/handoff.ts';
import { makeSlip, type Slip } from '#core/handoff/slip.ts';
import type { Finding } from '#core/looking/finding.ts';
import { lookOver } from '#core/looking/look-over.ts';
import { runStep, type StepRequest } from '#core/operations/run.ts';
import type { Report } from '#core/operations/operation.ts';
import type { Problem, ReadingProblem } from '#core/problems/problems.ts';
import { ok, type Result } from '#core/problems/problems.ts';
import { sameBytes } from '#core/smf/chunks.ts';
import { readSmfs } from '#core/smf/read.ts';
import type { Scope } from '#core/song/scope.ts';
import { songsFromSmfs } from '#core/song/from-smf.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import type { Song } from '#core/song/song.ts';
import { timingOf } from '#core/timing/timing.ts';
import { blobsOf, fromManifest, sha256, toManifest, type Blobs, type Decoded, type Manifest } from '../store/manifest.ts';

/** What the worker threads do: pure work on bytes, no database. */

export interface StepRecord {
  readonly operation: string;
  readonly version: number;
  readonly settings: Record<string, unknown>;
  readonly scope: Scope;
  readonly described: string;
  readonly report: Report;
}

/** A song as a file gives it: the file as it was read, and the step taken at intake, if any. */
export interface NewSong {
  readonly first: Manifest;
  readonly split?: { readonly manifest: Manifest; readonly step: StepRecord };
}

export interface Intake {
  readonly songs: readonly NewSong[];
  readonly blobs: Blobs;
  readonly problems: readonly ReadingProblem[];
  readonly sha256: string;
}

/** Reads a file into songs ready to be stored. A format 0 track of many channels, and a pattern of format 2, gets a track for each, as a step that can be undone. */
export function readFile({ bytes, fileName }: { bytes: Uint8Array; fileName: string }): Result<Intake> {
  const readings = readSmfs(bytes);
  if (!readings.ok) return readings;
  const blobs: Blobs = new Map();
  const unsplit: ReadingProblem[] = [];
  const songs = songsFromSmfs(readings.value, fileName).map((song): NewSong => {
    const first = toManifest(song, summariseSong(song), blobs);
    const split = song.format !== 1 && song.tracks.length === 1 ? takeStep(song, { operation: 'tracks.split-by-channel' }, blobs) : undefined;
    if (split?.ok === false) unsplit.push({ code: 'not-split', where: {} });
    return split?.ok && split.value.changed ? { first, split: split.value } : { first };
  });
  return ok({ songs, blobs, problems: [...readings.value.flatMap((r) => r.problems), ...unsplit], sha256: sha256(bytes) });
}

export interface StepTaken {
  readonly changed: boolean;
  readonly manifest: Manifest;
  readonly step: StepRecord;
}

function takeStep(song: Song, request: StepRequest, blobs: Blobs, known?: ReturnType<typeof fromManifest>['known'], before?: Manifest): Result<StepTaken> {
  const result = runStep(song, request);
  if (!result.ok) return result;
  const { song: after, report, described, operation, settings, scope } = result.value;
  const had = new Set(song.tracks);
  const untouched = new Set(after.tracks.filter((t) => had.has(t)).map((t) => t.id));
  const summaries = new Map(before?.summary.tracks.filter((t) => untouched.has(t.id)).map((t) => [t.id, t]));
  // What texts say is part of every summary.
  const summary = summariseSong(after, before && song.encoding === after.encoding ? { timing: before.summary.timing, tracks: summaries } : undefined);
  const manifest = toManifest(after, summary, blobs, known);
  return ok({ changed: report.changes.length > 0, manifest, step: { operation: operation.id, version: operation.version, settings, scope, described, report } });
}

export interface StepInput {
  readonly manifest: Manifest;
  readonly blobs: Blobs;
  readonly request: StepRequest;
}

/** Takes one step; `blobs` of the answer are those that the revision before did not have. */
export function step({ manifest, blobs, request }: StepInput): Result<StepTaken & { blobs: Blobs }> {
  const { song, known } = fromManifest(manifest, blobs);
  const fresh: Blobs = new Map();
  const taken = takeStep(song, request, fresh, known, manifest);
  if (!taken.ok) return taken;
  for (const had of blobsOf(manifest)) fresh.delete(had);
  return ok({ ...taken.value, blobs: fresh });
}

/** What the look-over notices in a revision. */
export function look({ manifest, blobs }: Pick<StepInput, 'manifest' | 'blobs'>): Result<Finding[]> {
  return ok(lookOver(fromManifest(manifest, blobs).song));
}

/** Every tempo of a revision, as two lists. */
export function tempos({ manifest, blobs }: Pick<StepInput, 'manifest' | 'blobs'>): Result<{ ticks: number[]; tempos: number[] }> {
  const points = timingOf(fromManifest(manifest, blobs).song).tempos;
  return ok({ ticks: points.map((p) => p.atTick), tempos: points.map((p) => p.tempo) });
}

/** The map of a revision as a MIDI file without notes. */
export function mapFile({ manifest, blobs }: Pick<StepInput, 'manifest' | 'blobs'>): Result<Uint8Array> {
  return mapAlone(fromManifest(manifest, blobs).song);
}

export interface HandoffInput {
  readonly manifest: Manifest;
  readonly received: Manifest;
  /** The song as it was read, before anything. */
  readonly asRead: Manifest;
  readonly blobs: Blobs;
  readonly settings: HandoffSettings;
  readonly original: Uint8Array;
  /** Name the file would have with this ending. */
  readonly name: string;
}

export function handoff({ manifest, received, asRead, blobs, settings, original, name }: HandoffInput): Result<{ bytes: Uint8Array; slip: Slip; sha256: string }, Problem> {
  const decoded: Decoded = new Map();
  const open = (of: Manifest): Song => fromManifest(of, blobs, decoded).song;
  const song = open(manifest);
  const before = { received: open(received), asRead: open(asRead) };
  const made = makeHandoff(song, before, settings);
  if (!made.ok) return made;
  const { bytes, ending } = made.value;
  const hash = sha256(bytes);
  const fileName = name.replace(/\.\w+$/, (given) => (ending === 'rmi' ? '.rmi' : given === '.rmi' ? '.mid' : given));
  return ok({ bytes, sha256: hash, slip: makeSlip(song, made.value, { name: fileName, sha256: hash, sameAsOriginal: sameBytes(bytes, original) }) });
}
