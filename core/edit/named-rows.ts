import { z } from 'zod';
import { refused, type Problem } from '../problems/problems.ts';
import type { Events } from '../smf/events.ts';
import { findTrack, type Song } from '../song/song.ts';

export const trackIdSetting = z.string().max(40);

/** A row of a track's events, from 0. */
export const rowSetting = z.int().min(0).max(100_000_000);

/** Rows named by hand: for each track id spans of rows, first and last. */
export const rowsSetting = z
  .record(
    trackIdSetting,
    z
      .array(z.tuple([rowSetting, rowSetting]))
      .min(1)
      .max(50_000),
  )
  .meta({
    title: 'Rows',
    description:
      'For each track id, spans of rows (first and last, from 0) in the revision that the step is taken on.',
  });

export type NamedRows = z.infer<typeof rowsSetting>;

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
): { ok: false; problem: Problem } | undefined {
  const fault = tracksFault(song, Object.keys(rows), 'settings.rows');
  if (fault) return fault;
  for (const [id, spans] of Object.entries(rows)) {
    const { count } = findTrack(song, id)!.events;
    const wrong = spans.find(([from, to]) => from > to || to >= count);
    if (wrong)
      return refused({
        code: 'settings-invalid',
        where: { field: `settings.rows.${id}` },
        expected: `spans within 0 to ${count - 1}`,
        found: wrong.join(' to '),
      });
  }
  return undefined;
}

/** 1 for every named row. */
export function markRows(
  events: Events,
  spans: readonly (readonly [number, number])[],
): Uint8Array {
  const marked = new Uint8Array(events.count);
  for (const [from, to] of spans) marked.fill(1, from, to + 1);
  return marked;
}
