import { z } from 'zod';
import type { Events } from '../smf/events.ts';

/** A row of a track's events, from 0. */
export const rowSetting = z.int().min(0).max(100_000_000);

/** Rows chosen by hand: for each track id spans of rows, first and last. */
export const rowsSchema = z
  .record(
    z.string().max(40),
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

export type NamedRows = z.infer<typeof rowsSchema>;

/** 1 for every named row. */
export function markRows(
  events: Events,
  spans: readonly (readonly [number, number])[],
): Uint8Array {
  const marked = new Uint8Array(events.count);
  for (const [from, to] of spans) marked.fill(1, from, to + 1);
  return marked;
}
