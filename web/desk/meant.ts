import { asSpans, changedNotes, changedRows } from '#core/song/changed-rows.ts';
import type { NamedRows } from '#core/song/rows.ts';
import type { Song } from '#core/song/song.ts';
import { isMeta, meta } from '#core/smf/events.ts';
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

/**
 * The events that steps would take out, change or move, each step taken on the song as it is: what a finding
 * that they settle is about. A step that moves time means no single events.
 */
export function meantBy(song: Song, requests: readonly StepRequest[]): Meant {
  const found = new Map<string, Set<number>>();
  for (const request of requests) {
    const result = runStep(song, request);
    if (!result.ok || result.value.moves) continue;
    const after = new Map(result.value.song.tracks.map((t) => [t.id, t.events]));
    for (const { id, events } of song.tracks) {
      const now = after.get(id);
      if (!now || now === events) continue;
      const rows = found.get(id) ?? new Set();
      for (const row of changedRows(events, now)) rows.add(row);
      for (const row of changedNotes(events, now)) rows.add(row);
      if (rows.size > 0) found.set(id, rows);
    }
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
