import { say } from '#core/problems/sentences.ts';
import type { GuessedTrack } from '#core/guessing/guess.ts';
import type { Contents } from '#core/work/contents.ts';
import { divisionText } from '#core/smf/division.ts';
import type { OriginalView, SongRow, SongView, TrackView } from '#contracts/songs.ts';
import { trackView } from '#contracts/track-view.ts';
import type { GuessesView } from '#contracts/guesses.ts';
import type { ChordsView, KeysView } from '#contracts/harmony.ts';
import type { HarmonyOfSong } from './threads/tasks.ts';
import type { StepView } from '#contracts/steps.ts';
import type { HandoffView } from '#contracts/handoffs.ts';
import type { HandoffRecord, Step } from './db/models.ts';
import { filesOf } from './store/handoff-store.ts';
import { purgeAt } from './store/keeping.ts';
import type { ListedSong } from './store/song-list.ts';
import type { SongAt } from './store/song-store.ts';
import type { ShownRevision } from './store/song-views.ts';

/** Records as the API shows them: channels and programs from 1. */

export function songRow({ record, revision }: SongAt, bytes: number): SongRow {
  return {
    id: record.id,
    fileName: record.fileName,
    bytes,
    ...revision.overview,
    problems: record.reading.length,
    steps: revision.depth,
    revision: record.head,
    tags: [...record.tags],
    ...(record.lookedAt === record.head && record.openFindings !== null
      ? { openFindings: record.openFindings }
      : {}),
    createdAt: record.createdAt.toISOString(),
    updatedAt: record.updatedAt.toISOString(),
    ...(record.removedAt ? { removedAt: record.removedAt.toISOString() } : {}),
  };
}

export function listedRow(
  {
    overview,
    reading,
    depth,
    head,
    createdAt,
    updatedAt,
    removedAt,
    id,
    fileName,
    bytes,
    keptBytes,
    tags,
    lookedAt,
    openFindings,
    handedOff,
  }: ListedSong,
  keepDays: number,
): SongRow {
  const purged = removedAt && purgeAt(removedAt, keepDays);
  return {
    id,
    fileName,
    bytes,
    keptBytes,
    ...overview,
    problems: reading.length,
    steps: depth,
    revision: head,
    tags: [...tags],
    ...(lookedAt === head && openFindings !== null ? { openFindings } : {}),
    ...(handedOff
      ? {
          handedOff: {
            at: new Date(handedOff.at).toISOString(),
            revision: handedOff.revision,
            ...(handedOff.to === null ? {} : { to: handedOff.to }),
          },
        }
      : {}),
    createdAt: createdAt.toISOString(),
    updatedAt: updatedAt.toISOString(),
    ...(removedAt ? { removedAt: removedAt.toISOString() } : {}),
    ...(purged ? { purgeAt: purged.toISOString() } : {}),
  };
}

export function songView(
  at: SongAt,
  { view, tracks }: ShownRevision,
  original: { bytes: number },
  undo: string | null,
  redo: string | null,
): SongView {
  const { record, revision } = at;
  const { manifest } = revision;
  return {
    ...songRow(at, original.bytes),
    original: {
      sha256: record.original,
      bytes: original.bytes,
      fileName: record.fileName,
      wrapped: manifest.wrapper !== undefined,
      alienChunks: manifest.alienChunks.map(({ id, bytes }) => ({ id, bytes })),
    },
    receivedFormat: manifest.format,
    division: manifest.division,
    divisionText: divisionText(manifest.division),
    encoding: manifest.encoding,
    reading: record.reading,
    mapTrack: view.mapTrack,
    undo,
    redo,
    timing: view.timing,
    tracks: tracks.map((t, i) => trackView(t, manifest.tracks[i]!.blob)),
  };
}

export function stepView(step: Step, parent: number, state: StepView['state']): StepView {
  const { revision, operation, version, settings, scope, described, report } = step;
  return {
    revision,
    parent,
    operation,
    version,
    settings,
    scope,
    described,
    report,
    at: step.createdAt.toISOString(),
    state,
  };
}

export function handoffView(h: HandoffRecord): HandoffView {
  return {
    id: h.id,
    revision: h.revision,
    at: h.createdAt.toISOString(),
    files: [...filesOf(h)],
    notes: [...(h.notes ?? [])],
    settings: h.settings,
    ...(h.receiver ? { receiver: h.receiver } : {}),
    slip: h.slip,
  };
}

/** Chords that sound in bars, both included. */
export const chordsView = (
  { chords }: HarmonyOfSong,
  from: number,
  to: number,
): ChordsView['chords'] =>
  chords
    .filter((c) => c.bar <= to && c.toBar >= from)
    .map(({ atTick, toTick, bar, name, notes, sure, others }) => ({
      atTick,
      toTick,
      bar,
      name,
      notes: [...notes],
      sure,
      others: [...others],
    }));

export const keysView = ({ keys, outside }: HarmonyOfSong): KeysView['keys'] =>
  keys.map(({ key: _, spelled, ...region }, n) => ({
    ...region,
    others: [...region.others],
    ...spelled,
    outside: [...outside[n]!],
  }));

/** What may play tracks, programs from 1. */
export const guessesView = (tracks: readonly GuessedTrack[]): GuessesView['tracks'] =>
  tracks.map(({ id, role, guesses }) => ({
    id,
    role: role ?? null,
    guesses: guesses.map((g) => ({ ...g, program: g.drums ? null : g.program + 1 })),
  }));

/** What a file holds. Its tracks are in no song, so no blob names their events. */
export function originalView(
  { sha256, parts, problems }: Contents,
  bytes: number,
  fileName?: string,
): OriginalView {
  return {
    sha256,
    bytes,
    ...(fileName ? { fileName } : {}),
    parts: parts.map(({ tracks, guesses, ...part }, n) => ({
      part: n + 1,
      ...part,
      divisionText: divisionText(part.division),
      tracks: tracks.map((t) => withoutHash(trackView(t, ''))),
      guesses: guessesView(guesses),
    })),
    problems: problems.map((p) =>
      say(fileName ? { ...p, where: { file: fileName, ...p.where } } : p),
    ),
  };
}

const withoutHash = ({ sha256, ...track }: TrackView): Omit<TrackView, 'sha256'> => track;
