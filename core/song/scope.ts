import { z } from 'zod';
import { refused, ok, type Problem, type Result } from '../problems/problems.ts';
import { barTick, barsUntil, meterMap } from '../timing/meter-map.ts';
import { rowsSchema, type NamedRows } from './rows.ts';
import { timingOf } from './timing-of.ts';
import type { Song, Track } from './song.ts';

const barNumber = z.int().min(1).max(1_000_000_000);

/** First and last bar, both included. */
export const barsSchema = z
  .strictObject({ from: barNumber, to: barNumber })
  .refine(({ from, to }) => from <= to, 'a first bar that is not behind the last');

/**
 * What a step works on: tracks (all where none are named), and a span of bars (the whole song where none is
 * given) for the operations that obey one.
 */
export const scopeSchema = z
  .strictObject({
    tracks: z
      .union([z.literal('all'), z.array(z.string().max(40)).min(1).max(70_000)])
      .default('all'),
    bars: barsSchema
      .optional()
      .meta({ title: 'Bars', description: 'First and last bar, both included.' }),
    rows: rowsSchema.optional().meta({
      title: 'Chosen by hand',
      description:
        'Events that were chosen one by one, in place of tracks and bars: for each track id spans of rows (first and last, from 0) of a revision.',
    }),
    revision: z
      .int()
      .min(0)
      .optional()
      .meta({ title: 'Revision of the rows', description: 'Rows of an older one are refused.' }),
  })
  .meta({
    title: 'Scope',
    description:
      'What a step works on: tracks ("all", or their ids), and bars; or events chosen by hand.',
  });

export type Scope = z.infer<typeof scopeSchema>;

export const wholeSong: Scope = { tracks: 'all' };

/** The tracks of the scope, in the song's order. */
export function tracksIn(song: Song, scope: Scope): Result<readonly Track[]> {
  if (scope.rows) {
    const { rows } = scope;
    return ok(song.tracks.filter((t) => rows[t.id] !== undefined));
  }
  if (scope.tracks === 'all') return ok(song.tracks);
  const wanted = new Set(scope.tracks);
  const tracks = song.tracks.filter((t) => wanted.has(t.id));
  if (tracks.length === wanted.size) return ok(tracks);
  const known = new Set(tracks.map((t) => t.id));
  const problem: Problem = {
    code: 'scope-unknown-track',
    where: { field: 'scope.tracks' },
    tracks: [...wanted].filter((id) => !known.has(id)),
  };
  return refused(problem);
}

/** Ticks from `from` up to, not including, `to`; of one track, where events are chosen by hand, 1 for each of these. */
export interface TickSpan {
  readonly from: number;
  readonly to: number;
  readonly rows?: Uint8Array;
}

/**
 * The scope's bars as ticks; everything where it names none. A scope that begins behind the song's last bar
 * is refused.
 */
export function spanOf(song: Song, scope: Scope): Result<TickSpan> {
  if (scope.rows) return ok(spanOfRows(song, scope.rows));
  if (!scope.bars) return ok({ from: 0, to: Infinity });
  const timing = timingOf(song);
  const map = meterMap(timing.meters, song.division);
  const { from, to } = scope.bars;
  const bars = barsUntil(map, timing.endTick);
  if (from > bars)
    return refused({ code: 'scope-behind-end', where: { field: 'scope.bars' }, from, bars });
  return ok({ from: barTick(map, from), to: to >= bars ? Infinity : barTick(map, to + 1) });
}

/** From the first to the last event that is chosen. */
function spanOfRows(song: Song, rows: NamedRows): TickSpan {
  let [from, last] = [Infinity, 0];
  for (const { id, events } of song.tracks)
    for (const [first, behind] of rows[id] ?? []) {
      from = Math.min(from, events.atTick[first] ?? Infinity);
      last = Math.max(last, events.atTick[behind] ?? 0);
    }
  return from > last ? { from: 0, to: Infinity } : { from, to: last + 1 };
}
