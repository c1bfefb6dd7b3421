import { z } from 'zod';
import { ok, refused, type Result } from '../../problems/problems.ts';
import { tracksIn, type Scope } from '../../song/scope.ts';
import type { Song, Track } from '../../song/song.ts';
import { barsOf, type Part } from './laid-out.ts';
import { edges, type Edges } from './notes-over-edges.ts';

const edgesOr = (usual: Edges) =>
  z.enum(edges).default(usual).meta({
    title: 'Notes over an edge',
    description:
      '“cut”: each side keeps its part, the second struck anew. “kept whole”: one note, from where it begins to where it ends now. “with their beginning”: as long as they were, from where they begin.',
  });
export const edgesSetting = edgesOr('cut');
/** The same of steps after which bars follow each other as before. */
export const wholeEdgesSetting = edgesOr('with their beginning');

export const barSetting = (title: string, description?: string) =>
  z
    .int()
    .min(1)
    .max(1_000_000)
    .meta(description ? { title, description } : { title });

/** Bars of a scope: the first, and the one behind the last; how many the song has; whose they are. */
export interface InBars {
  readonly from: number;
  readonly to: number;
  readonly bars: number;
  readonly tracks: readonly Track[];
}

/** The bars and tracks of a scope that has bars; refused where the song has no such bars. */
export function inBars(song: Song, scope: Scope): Result<InBars> {
  const tracks = tracksIn(song, scope);
  if (!tracks.ok) return tracks;
  const { bars } = barsOf(song);
  const { from, to } = scope.bars!;
  const beyond = from > bars ? from : to;
  if (beyond > bars)
    return refused({
      code: 'bars-behind-end',
      where: { field: 'scope.bars' },
      bar: beyond,
      bars,
    });
  return ok({ from, to: to + 1, bars, tracks: tracks.value });
}

/** A bar before which something goes: one of the song, or the one behind its last. */
export function barOf(bar: number, bars: number, field: string): Result<number> {
  return bar > bars + 1
    ? refused({ code: 'bars-behind-end', where: { field }, bar, bars: bars + 1 })
    : ok(bar);
}

/** Parts that end with the song's last bar go on to its very end, but where others follow them. */
export function toTheEnd(parts: readonly Part[], bars: number): Part[] {
  const there = parts.filter((p) => 'empty' in p || p.from < Math.min(p.to, bars + 1));
  return there.map((p, n) => {
    if ('empty' in p) return p;
    const isLast = n === there.length - 1;
    return { from: p.from, to: p.to <= bars ? p.to : isLast ? Infinity : bars + 1 };
  });
}

/** Bars as a report says them. */
export const barWords = ({ bars }: Scope): string =>
  bars!.from === bars!.to ? `bar ${bars!.from}` : `bars ${bars!.from}–${bars!.to}`;

export const barsCounted = (n: number): string =>
  `${n.toLocaleString('en')} ${n === 1 ? 'bar' : 'bars'}`;
