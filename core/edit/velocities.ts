import type { Result } from '../problems/problems.ts';
import type { Events } from '../smf/events.ts';
import type { Scope } from '../song/scope.ts';
import type { Song } from '../song/song.ts';
import type { Applied } from './report.ts';
import { rewriteTracks, within } from './rewrite.ts';

/** One velocity as it was and where; gives the new one, which is rounded and kept within 1–127. */
export type VelocityEdit = (velocity: number, index: number, events: Events) => number;

/**
 * Loudness of the notes in a scope anew, track by track; `prepare` sees a track's notes first and gives the
 * edit for it.
 */
export function editVelocities(
  song: Song,
  scope: Scope,
  prepare: (events: Events, rows: readonly number[]) => VelocityEdit,
): Result<Applied> {
  return rewriteTracks(song, scope, (events, span) => {
    const rows = noteRows(events).filter((i) => within(span, events, i));
    if (rows.length === 0) return { left: 'It has no notes there.' };
    const edit = prepare(events, rows);
    const data2 = events.data2.slice();
    let changed = 0;
    for (const i of rows) {
      const velocity = Math.min(127, Math.max(1, Math.round(edit(events.data2[i]!, i, events))));
      if (velocity === data2[i]) continue;
      data2[i] = velocity;
      changed++;
    }
    return changed === 0
      ? { left: 'Its velocities are that already.' }
      : { events: { ...events, data2 }, counts: { note: changed } };
  });
}

/** Rows of the note-ons, in order. */
export function noteRows({ status, data2, count }: Events): number[] {
  const rows: number[] = [];
  for (let i = 0; i < count; i++) if (status[i]! >> 4 === 9 && data2[i] !== 0) rows.push(i);
  return rows;
}
