import { ok, refused, type Problem, type Result } from '../problems/problems.ts';
import { schemaFault } from '../problems/schema-fault.ts';
import { holdTimes } from '../edit/hold-times.ts';
import { rowsFault } from '../edit/named-rows.ts';
import { scopeSchema, type Scope } from '../song/scope.ts';
import { bridgeWords, bridgedSong } from '../song/bridged-song.ts';
import type { Song } from '../song/song.ts';
import { isSame, type Moves } from '../timing/time-map.ts';
import { madeFaults } from './made-faults.ts';
import type { Applied, Change, Operation, Report } from './operation.ts';
import {
  sourceKey,
  sourceWords,
  type NamedSource,
  type SourceName,
  type Sources,
} from './sources.ts';
import { whatIsLeft } from './what-is-left.ts';

/** A step as it is asked for, from anywhere: settings and scope are not trusted. */
export interface StepRequest {
  readonly operation: string;
  /** Of the operation, for which the settings were made; its newest where it is left out. */
  readonly version?: number | undefined;
  readonly settings?: unknown;
  readonly scope?: unknown;
}

export interface StepResult {
  readonly song: Song;
  readonly report: Report;
  /** How time moved, where it did. */
  readonly moves?: Moves;
  readonly described: string;
  readonly operation: Operation;
  /** As validated, with defaults filled in. */
  readonly settings: Record<string, unknown>;
  readonly scope: Scope;
}

/** Checks and applies one step of the operations given, with what it takes from outside the song. */
export function runWith(
  operations: readonly Operation[],
  song: Song,
  request: StepRequest,
  sources: Sources,
): Result<StepResult> {
  const operation = operations.find((o) => o.id === request.operation);
  if (!operation)
    return refused({
      code: 'operation-unknown',
      where: { id: request.operation },
      known: operations.map((o) => o.id),
    });
  if (request.version !== undefined && request.version > operation.version)
    return refused({
      code: 'settings-invalid',
      where: { field: 'version' },
      expected: `at most ${operation.version}`,
      found: String(request.version),
    });
  const given = upgraded(operation, request.settings ?? {}, request.version);
  const settings = operation.settings.safeParse(given);
  if (!settings.success) return refused(schemaFault('settings', settings.error, given));
  const scope = scopeSchema.safeParse(request.scope ?? {});
  if (!scope.success) return refused(schemaFault('scope', scope.error, request.scope));
  const ofBars = operation.scope === 'events' || operation.scope === 'bars';
  if (scope.data.bars && !ofBars)
    return refused({ code: 'scope-has-bars', where: { field: 'scope.bars' } });
  if (!scope.data.bars && operation.scope === 'bars')
    return refused({ code: 'scope-without-bars', where: { field: 'scope.bars' } });
  const rows = scope.data.rows && rowsProblem(song, operation, scope.data);
  if (rows) return rows;
  const missing = operation.sources?.(settings.data).find((source) => !isThere(source, sources));
  if (missing)
    return refused({
      code: 'source-missing',
      where: { field: 'settings' },
      source: sourceWords(missing),
      blank: 'blank' in missing,
    });
  const applied = operation.apply(song, settings.data, scope.data, sources);
  if (!applied.ok) return applied;
  const { runsOthers } = operation;
  const held = holdable(song, runsOthers ? applied.value : holdTimes(song, applied.value));
  if (!held.ok) return held;
  const report = told(song, held.value, takenFrom(operation.sources?.(settings.data), sources));
  const moves =
    applied.value.moves && !isSame(applied.value.moves) ? applied.value.moves : undefined;
  return ok({
    song: held.value.song,
    report,
    ...(moves ? { moves } : {}),
    described: operation.describe(settings.data, report, scope.data),
    operation,
    settings: settings.data,
    scope: scope.data,
  });
}

/** The songs that a step takes from, each once. */
function takenFrom(names: readonly SourceName[] | undefined, sources: Sources): Song[] {
  const named = names?.filter((name): name is NamedSource => !('blank' in name)) ?? [];
  return [...new Set(named.map(sourceKey))].flatMap((key) => sources.get(key) ?? []);
}

/** Why a step cannot be taken on events that are chosen by hand. */
function rowsProblem(
  song: Song,
  { takesRows }: Operation,
  { rows, bars }: Scope,
): { ok: false; problem: Problem } | undefined {
  if (!takesRows) return refused({ code: 'scope-has-rows', where: { field: 'scope.rows' } });
  if (!bars) return rowsFault(song, rows!, 'scope.rows');
  return refused({
    code: 'settings-invalid',
    where: { field: 'scope.bars' },
    expected: 'chosen events, or bars',
    found: 'both',
  });
}

const isNamed = (source: SourceName): source is NamedSource => !('blank' in source);
const isThere = (source: SourceName, sources: Sources): boolean =>
  isNamed(source) && sources.has(sourceKey(source));

/** The sources that a step names, each once; none where the step cannot be read, which is said when it is run. */
export function namedSources(
  operations: readonly Operation[],
  request: StepRequest,
): readonly NamedSource[] {
  const operation = operations.find((o) => o.id === request.operation);
  const settings =
    operation?.sources &&
    operation.settings.safeParse(upgraded(operation, request.settings ?? {}, request.version));
  if (!settings?.success) return [];
  const named = operation!.sources!(settings.data).filter(isNamed);
  return [...new Map(named.map((source) => [sourceKey(source), source])).values()];
}

/** Settings made for a version of an operation, as it takes them now. */
export function upgraded(
  operation: Operation,
  settings: unknown,
  version = operation.version,
): unknown {
  const older =
    version < operation.version &&
    operation.upgrade &&
    typeof settings === 'object' &&
    settings !== null;
  return older ? operation.upgrade!(settings as Record<string, unknown>, version) : settings;
}

/**
 * The report with what the step made that the look-over would find: faults of notes, tracks left with
 * nothing to play.
 */
function told(before: Song, { song, report }: Applied, from: readonly Song[]): Report {
  if (report.changes.length === 0 || song.tracks === before.tracks) return report;
  const left = whatIsLeft(before, song);
  const faults = madeFaults(before, song, from);
  if (left.size === 0 && !faults) return report;
  const words = (change: Change): string =>
    [change.detail, change.track && left.get(change.track)].filter(Boolean).join('; ');
  return {
    ...report,
    changes: report.changes.map((c) => (words(c) ? { ...c, detail: words(c) } : c)),
    ...(faults ? { told: [...(report.told ?? []), faults] } : {}),
  };
}

/**
 * What a step made, with gaps that no file can say bridged in the tracks that it touched, and told; refused
 * where nothing can bridge them.
 */
function holdable(before: Song, { song, report }: Applied): Result<Applied> {
  if (song.tracks === before.tracks) return ok({ song, report });
  const known = new Set(before.tracks);
  const held = bridgedSong(song, known);
  if (!held.ok) return held;
  if (held.value.bridges.length === 0) return ok({ song: held.value.song, report });
  const told = held.value.bridges.map(({ track, name, bridges }) => ({
    track: track.id,
    name,
    did: 'changed' as const,
    counts: {},
    detail: bridgeWords(bridges),
  }));
  return ok({
    song: held.value.song,
    report: { ...report, changes: [...report.changes, ...told] },
  });
}
