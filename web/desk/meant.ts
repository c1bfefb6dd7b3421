import { asSpans, changedNotes, changedRows } from '#core/song/changed-rows.ts';
import type { NamedRows } from '#core/song/rows.ts';
import type { Song } from '#core/song/song.ts';
import { isMeta, meta } from '#core/smf/events.ts';
import { meantRows } from '#core/looking/meant-rows.ts';
import { notesOf } from '#core/song/notes.ts';
import { runStep, type StepRequest } from '#core/operations/run.ts';

/** Events of a song that something is about, by track, and how many are notes, values of lanes, anything else. */
export interface Meant {
  readonly rows: NamedRows;
  /** By track, the ticks where they stand, rising; of many some, spread over them. */
  readonly ticks: Readonly<Record<string, readonly number[]>>;
  readonly notes: number;
  readonly values: number;
  readonly others: number;
}

/** More spans of one track than this no step takes, and nobody looks at. */
const mostSpans = 50_000;

/** A finding: by which rule, about which tracks, and the step that would settle it. */
export interface Asked {
  readonly rule: string;
  readonly tracks: readonly string[];
  readonly step: StepRequest | undefined;
}

/**
 * The events that findings are about: those that the step which settles it would take out, change or move, on
 * the song as it is, or what the rule says. A step that moves time means no single events.
 */
export function meantBy(song: Song, findings: readonly Asked[]): Meant {
  const found = new Map<string, Set<number>>();
  const add = (id: string, rows: Iterable<number>): void => {
    const its = found.get(id) ?? new Set();
    for (const row of rows) its.add(row);
    found.set(id, its);
  };
  for (const { rule, tracks, step } of findings) {
    const said = song.tracks
      .filter((t) => tracks.includes(t.id))
      .map((t) => [t.id, meantRows(rule, t)] as const);
    if (said.some(([, rows]) => rows)) for (const [id, rows] of said) add(id, rows ?? []);
    else if (step) for (const [id, rows] of changedBy(song, step)) add(id, rows);
    // What no step settles is about all that its parts play.
    else for (const t of song.tracks) if (tracks.includes(t.id)) add(t.id, notesOf(t.events).on);
  }
  const kinds = { notes: 0, values: 0, others: 0 };
  const rows: NamedRows = {};
  const ticks: Record<string, readonly number[]> = {};
  for (const { id, events } of song.tracks) {
    // Where a track ends is nothing that is seen.
    const its = [...(found.get(id) ?? [])]
      .filter((row) => !isMeta(events, row, meta.endOfTrack))
      .sort((a, b) => a - b);
    if (its.length === 0) continue;
    rows[id] = asSpans(its).slice(0, mostSpans);
    ticks[id] = spread([...new Set(its.map((row) => events.atTick[row]!))]);
    for (const row of its) {
      const status = events.status[row]!;
      // A note is its beginning and its end.
      if (status < 0xa0) kinds.notes += status >> 4 === 9 && events.data2[row]! > 0 ? 1 : 0;
      else if (status < 0xf0 && status >> 4 !== 0xc) kinds.values++;
      else kinds.others++;
    }
  }
  return { rows, ticks, ...kinds };
}

/** More than this are not told apart where a whole song is as wide as a page. */
const mostTicks = 1000;

const spread = (ticks: readonly number[]): readonly number[] =>
  ticks.length <= mostTicks
    ? ticks
    : Array.from(
        { length: mostTicks },
        (_, n) => ticks[Math.floor((n * ticks.length) / mostTicks)]!,
      );

/** Rows that a step would change, by track; all of a track that it would remove. */
function changedBy(song: Song, step: StepRequest): Map<string, number[]> {
  const found = new Map<string, number[]>();
  const result = runStep(song, step);
  if (!result.ok || result.value.moves) return found;
  const after = new Map(result.value.song.tracks.map((t) => [t.id, t.events]));
  for (const { id, events } of song.tracks) {
    const now = after.get(id);
    if (now === events) continue;
    found.set(
      id,
      now
        ? [...changedRows(events, now), ...changedNotes(events, now)]
        : Array.from({ length: events.count }, (_, row) => row),
    );
  }
  return found;
}
