import { excerptOf } from '../../../edit/excerpt/excerpt.ts';
import { rowsFault, type NamedRows } from '../../../edit/named-rows.ts';
import { counted } from '../../../edit/rewrite.ts';
import { ok, type Result } from '../../../problems/problems.ts';
import { spanOf } from '../../../song/scope.ts';
import { findTrack, type Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { meterMap, positionAt } from '../../../timing/meter-map.ts';
import type { BringIn } from './settings.ts';

/** What of a source is taken from. */
export interface Cut {
  readonly song: Song;
  /** The bar of the source that is its first. */
  readonly firstBar: number;
  /** Ids of tracks of which nothing is in it. */
  readonly idle: ReadonlySet<string>;
  /** What is left of notes, in words. */
  readonly left?: string;
}

/** The source, or the bars or events of it that are asked for as a song of their own. */
export function cutOf(source: Song, { bars, rows, tracks, edges }: BringIn): Result<Cut> {
  if (!bars && !rows) return ok({ song: source, firstBar: 1, idle: new Set() });
  const fault = rows ? rowsFault(source, rows) : undefined;
  if (fault) return fault;
  const firstBar = bars?.from ?? firstBarOf(source, rows!);
  const span = spanOf(source, {
    tracks: 'all',
    bars: bars ?? { from: firstBar, to: 1_000_000_000 },
  });
  if (!span.ok) return span;
  const { song, cutOff, idle } = excerptOf(source, span.value, {
    ...(rows ? { rows } : edges === 'cut' ? { ends: 'again' as const } : {}),
    ...(Array.isArray(tracks) ? { speaks: ({ id }) => tracks.includes(id) } : {}),
  });
  return ok({
    song,
    firstBar,
    idle,
    ...(cutOff > 0 && edges !== 'cut'
      ? {
          left: `${counted(cutOff, 'note')} that ${cutOff === 1 ? 'sounds' : 'sound'} into bar ${firstBar} from before, left.`,
        }
      : {}),
  });
}

/** The bar in which the first of named rows stands. */
function firstBarOf(song: Song, rows: NamedRows): number {
  const first = Math.min(
    ...Object.entries(rows).map(([id, spans]) => {
      const { atTick } = findTrack(song, id)!.events;
      return Math.min(...spans.map(([from]) => atTick[from]!));
    }),
  );
  return positionAt(meterMap(timingOf(song).meters, song.division), first).bar;
}
