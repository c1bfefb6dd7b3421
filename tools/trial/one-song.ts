import { createHash } from 'node:crypto';
import { makeHandoff } from '#core/handoff/handoff.ts';
import { lookOver } from '#core/looking/look-over.ts';
import { operations } from '#core/operations/index.ts';
import { faultCount, noteFaults } from '#core/edit/note-faults.ts';
import { runStep, sourcesOf } from '#core/operations/run.ts';
import { sourceKey } from '#core/operations/sources.ts';
import { readSmf } from '#core/smf/read.ts';
import type { Song, Track } from '#core/song/song.ts';
import type { Tally } from './tally.ts';

/** As a handoff is asked for where nothing is said. */
const asReceived = {};

const hash = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

function handOff(song: Song, received: Song): { bytes: Uint8Array; proven: boolean } | undefined {
  const made = makeHandoff(song, { received, asRead: received }, asReceived);
  if (!made.ok) return undefined;
  const back = readSmf(made.value.bytes);
  // Proven, and nothing in it that a reader would have to mend; the wrapper's size and a format's tracks
  // are the file's own affair.
  return {
    bytes: made.value.bytes,
    proven: made.value.proof.holds && back.ok && back.value.problems.length === 0,
  };
}

const faultsOf = (tracks: readonly Track[]): number =>
  tracks.reduce((sum, t) => sum + faultCount(noteFaults(t.events)), 0);

/** Every rule, and every operation's examples, over one song. */
export function tryOut(song: Song, file: string, tally: Tally, only?: readonly string[]): void {
  const before = handOff(song, song);
  if (!before) return tally.broken(file, 'cannot be handed off as it is');
  if (!before.proven) tally.broken(file, 'its handoff is not proven');
  const was = hash(before.bytes);
  for (const [rule, findings] of countBy(lookOver(song).map((f) => f.rule)))
    tally.rule(rule, file, findings);
  for (const operation of operations) {
    if (operation.byHand || (only && !only.includes(operation.id))) continue;
    for (const { settings, scope } of operation.examples)
      tryStep(
        song,
        file,
        { operation: operation.id, settings, ...(scope ? { scope } : {}) },
        tally,
      );
  }
  if (hash(handOff(song, song)!.bytes) !== was)
    tally.broken(
      file,
      'was changed by a step that was taken on it: undo would not give back the very bytes',
    );
}

function tryStep(
  song: Song,
  file: string,
  request: { operation: string; settings: unknown; scope?: unknown },
  tally: Tally,
): void {
  const began = performance.now();
  // What it takes from outside is the very song: every channel and name is taken already.
  const result = runStep(
    song,
    request,
    new Map(sourcesOf(request).map((source) => [sourceKey(source), song])),
  );
  const ms = performance.now() - began;
  const { operation } = request;
  if (!result.ok) return tally.refused(operation, result.problem.code);
  const { song: after, report } = result.value;
  if (report.changes.length === 0) return tally.idle(operation, ms);
  const named = new Set(report.changes.map((c) => c.track));
  const old = new Map(song.tracks.map((t) => [t.id, t]));
  const changed = after.tracks.filter((t) => old.get(t.id) !== t);
  const whole = named.has(undefined);
  const touched = changed.filter((t) => old.has(t.id) && !named.has(t.id) && !whole);
  if (touched.length > 0)
    tally.broken(
      file,
      `${operation} changed ${touched.length} tracks that its report does not name`,
    );
  const made =
    faultsOf(changed) -
    faultsOf(changed.flatMap((t) => old.get(t.id) ?? [])) -
    goneFaults(song, after);
  const told = faultsNamed(report.told ?? []);
  if (made > told)
    tally.broken(
      file,
      `${operation} made ${made} faults in notes, of which its report names ${told}`,
    );
  const handed = handOff(after, song);
  if (!handed?.proven)
    tally.broken(file, `after ${operation} the handoff is ${handed ? 'not proven' : 'refused'}`);
  tally.applied(operation, file, ms, Math.max(0, made));
}

/** Faults that a report counts: those that a step made, and those that came with what it took. */
const faultsNamed = (told: readonly string[]): number =>
  told
    .flatMap((say) => [...say.matchAll(/(?:more than before|as they were there): ([^.]*)/g)])
    .flatMap(([, list]) => list!.match(/[\d,]+(?= )/g) ?? [])
    .reduce((sum, n) => sum + Number(n.replaceAll(',', '')), 0);

/** Faults of tracks that are no more: they stand in those that were made of them. */
function goneFaults(before: Song, after: Song): number {
  const left = new Set(after.tracks.map((t) => t.id));
  return faultsOf(before.tracks.filter((t) => !left.has(t.id)));
}

function countBy(names: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const name of names) counts.set(name, (counts.get(name) ?? 0) + 1);
  return counts;
}
