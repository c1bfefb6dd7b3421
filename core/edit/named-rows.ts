import { z } from 'zod';
import { refused, type Problem } from '../problems/problems.ts';
import { rowsSchema, type NamedRows } from '../song/rows.ts';
import { findTrack, type Song } from '../song/song.ts';

export { markRows, rowSetting, type NamedRows } from '../song/rows.ts';
export const rowsSetting = rowsSchema;

export const trackIdSetting = z.string().max(40);

/** What is wrong with settings that name tracks by id; undefined where every one is there. */
export function tracksFault(
  song: Song,
  ids: readonly string[],
  field: string,
): { ok: false; problem: Problem } | undefined {
  if (ids.length === 0)
    return refused({
      code: 'settings-invalid',
      where: { field },
      expected: 'at least one track',
      found: 'none',
    });
  const unknown = ids.filter((id) => !findTrack(song, id));
  return unknown.length > 0
    ? refused({ code: 'track-unknown', where: { field }, tracks: unknown })
    : undefined;
}

export function rowsFault(
  song: Song,
  rows: NamedRows,
  field = 'settings.rows',
): { ok: false; problem: Problem } | undefined {
  const fault = tracksFault(song, Object.keys(rows), field);
  if (fault) return fault;
  for (const [id, spans] of Object.entries(rows)) {
    const { count } = findTrack(song, id)!.events;
    const wrong = spans.find(([from, to]) => from > to || to >= count);
    if (wrong)
      return refused({
        code: 'settings-invalid',
        where: { field: `${field}.${id}` },
        expected: `spans within 0 to ${count - 1}`,
        found: wrong.join(' to '),
      });
  }
  return undefined;
}
