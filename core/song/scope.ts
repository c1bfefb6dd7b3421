import { z } from 'zod';
import { refused, ok, type Problem, type Result } from '../problems/problems.ts';
import type { Song, Track } from './song.ts';

/** What a step works on. All tracks where none are named. Bars and kinds of event join it with the operations that obey them. */
export const scopeSchema = z
  .strictObject({
    tracks: z.union([z.literal('all'), z.array(z.string().max(40)).min(1).max(70_000)]).default('all'),
  })
  .meta({ title: 'Scope', description: 'The tracks a step works on: "all", or their ids.' });

export type Scope = z.infer<typeof scopeSchema>;

export const wholeSong: Scope = { tracks: 'all' };

/** The tracks of the scope, in the song's order. */
export function tracksIn(song: Song, scope: Scope): Result<readonly Track[]> {
  if (scope.tracks === 'all') return ok(song.tracks);
  const wanted = new Set(scope.tracks);
  const tracks = song.tracks.filter((t) => wanted.has(t.id));
  if (tracks.length === wanted.size) return ok(tracks);
  const known = new Set(tracks.map((t) => t.id));
  const problem: Problem = { code: 'scope-unknown-track', where: { field: 'scope.tracks' }, tracks: [...wanted].filter((id) => !known.has(id)) };
  return refused(problem);
}
