import { runStep, type StepRequest } from '../operations/run.ts';
import type { Report } from '../operations/operation.ts';
import type { Sources } from '../operations/sources.ts';
import { ok, type Result } from '../problems/problems.ts';
import type { Scope } from '../song/scope.ts';
import type { Song, Track } from '../song/song.ts';
import type { Moves } from '../timing/time-map.ts';
import { summaryOf, type TrackSummary } from '../song/summary.ts';
import { activityFact, gridOf, trackFact, type Fact, type TrackFact } from './facts.ts';
import { viewOfSong, type RevisionView } from './overview.ts';
import type { Blobs, Given, KnownTracks, Ports } from './ports.ts';
import type { Manifest } from './manifest.ts';
import { blobsOf, fromManifest, openTracks, toManifest } from './revision.ts';
import { openSources, type StoredSource } from './sources.ts';

export interface StepRecord {
  readonly operation: string;
  readonly version: number;
  readonly settings: Record<string, unknown>;
  readonly scope: Scope;
  readonly described: string;
  readonly report: Report;
  /** How time moved, where it did and can be said in not too many pieces. */
  readonly moves: Moves | null;
}

/**
 * A revision as work makes it: what is stored of it, what is said of it, and the facts of tracks that are
 * new in it.
 */
export interface MadeRevision {
  readonly manifest: Manifest;
  readonly view: RevisionView;
  readonly facts: readonly Fact[];
}

/** The revision of a song. Of tracks that `known` has, the facts are in `had`; all others are new. */
export function revisionOf(
  song: Song,
  blobs: Blobs,
  ports: Ports,
  known: ReadonlyMap<Track, string> = new Map(),
  had: KnownTracks = new Map(),
): MadeRevision {
  const manifest = toManifest(song, blobs, ports, known);
  const fresh = new Map<string, Fact & { kind: 'track' }>();
  let notes = 0;
  song.tracks.forEach((track, i) => {
    const { blob } = manifest.tracks[i]!;
    const kept = had.get(blob);
    if (!kept && !fresh.has(blob)) fresh.set(blob, trackFact(blob, track.events));
    notes += kept ? kept.notes : fresh.get(blob)!.value.content.notes;
  });
  const view = viewOfSong(song, notes, ports);
  const grid = gridOf(view.timing.cellTicks, ports);
  const eventsOf = new Map(song.tracks.map((t, i) => [manifest.tracks[i]!.blob, t]));
  const facts = [...fresh.values()].flatMap((fact) => [
    fact,
    activityFact(fact.blob, eventsOf.get(fact.blob)!.events, grid),
  ]);
  return { manifest, view, facts };
}

export interface StepTaken extends MadeRevision {
  readonly changed: boolean;
  readonly step: StepRecord;
  /** For a preview the first tracks that the report names, as they would be. */
  readonly shown: readonly Shown[];
}

export interface Shown {
  readonly summary: TrackSummary;
  readonly blob: string;
}

/**
 * Of time that moved in more pieces, as over a map of very many tempos, nothing is kept: it would be larger
 * than the song.
 */
const mostPieces = 20_000;
const piecesOf = ({ song, tracks }: Moves): number =>
  Object.values(tracks ?? {}).reduce((sum, own) => sum + own.length, song.length);

/** How many changed tracks are described. */
const mostShown = 20;

/**
 * What is known beside a song that a step is taken on: the blobs its tracks came from, the facts of these,
 * and what comes from outside.
 */
interface Beside {
  readonly known?: ReadonlyMap<Track, string>;
  readonly had?: KnownTracks;
  readonly sources?: Sources;
}

export function takeStep(
  song: Song,
  request: StepRequest,
  blobs: Blobs,
  ports: Ports,
  { known, had, sources }: Beside = {},
): Result<Omit<StepTaken, 'shown'> & { readonly song: Song }> {
  const result = runStep(song, request, sources);
  if (!result.ok) return result;
  const { song: after, report, moves = null, described, operation, settings, scope } = result.value;
  const made = revisionOf(after, blobs, ports, known, had);
  const kept = moves && piecesOf(moves) <= mostPieces ? moves : null;
  const step = {
    operation: operation.id,
    version: operation.version,
    settings,
    scope,
    described,
    report,
    moves: kept,
  };
  return ok({ ...made, song: after, changed: report.changes.length > 0, step });
}

function shownOf(
  song: Song,
  { changes }: Report,
  { manifest, facts, view }: MadeRevision,
  ports: Ports,
): Shown[] {
  const changed = new Set(changes.map((c) => c.track));
  const fresh = new Map(
    facts.flatMap((f) => (f.kind === 'track' ? [[f.blob, f.value] as const] : [])),
  );
  const contentOf = (track: Track, blob: string): TrackFact['content'] =>
    (fresh.get(blob) ?? trackFact(blob, track.events).value).content;
  const grid = gridOf(view.timing.cellTicks, ports);
  return song.tracks
    .map((track, i) => ({ track, blob: manifest.tracks[i]!.blob }))
    .filter(({ track }) => changed.has(track.id))
    .slice(0, mostShown)
    .map(({ track, blob }) => ({
      blob,
      summary: summaryOf(
        track,
        song.encoding,
        contentOf(track, blob),
        activityFact(blob, track.events, grid).value,
      ),
    }));
}

export interface StepInput extends Given {
  readonly manifest: Manifest;
  readonly request: StepRequest;
  /** What the step takes from outside the song, as far as it is stored. */
  readonly sources?: readonly StoredSource[];
  /** Nothing of it will be kept: the tracks that would change are described. */
  readonly preview?: boolean;
}

/** What a step gave, with the blobs that are new. */
export type Stepped = StepTaken & { readonly blobs: Blobs };

/** Blobs of tracks that a step needs and that are neither given nor at hand here. */
export const lackingFor = ({ manifest, ...given }: StepInput, ports: Ports): string[] =>
  openTracks(manifest, given, ports).lacking;

/**
 * Takes one step; `blobs` of the answer are those that the revision before did not have. @throws where some
 * are lacking, see `lackingFor`
 */
export function step(
  { manifest, blobs, known, request, sources = [], preview = false }: StepInput,
  ports: Ports,
): Result<Stepped> {
  const { song, ...had } = fromManifest(manifest, { blobs, known }, ports);
  const fresh: Blobs = new Map();
  const taken = takeStep(song, request, fresh, ports, {
    known: had.blobOf,
    had: had.known,
    sources: openSources(sources, ports),
  });
  if (!taken.ok) return taken;
  for (const hash of blobsOf(manifest)) fresh.delete(hash);
  const { song: after, ...made } = taken.value;
  return ok({
    ...made,
    shown: preview ? shownOf(after, made.step.report, made, ports) : [],
    blobs: fresh,
  });
}
