import type { z } from 'zod';
import { findTrack, trackLabel, type Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { barTick, meterMap, positionAt } from '../timing/meter-map.ts';
import type { Moves } from '../timing/time-map.ts';
import { byItsNotes, type barsOrBeats } from './edit-map.ts';
import { keepBars, type Beyond } from './keep-bars.ts';
import type { Change } from './report.ts';
import { counted } from './rewrite.ts';

/** A song whose meters were edited, its music at its bars or its beats. */
export interface Metered {
  readonly song: Song;
  readonly changes: readonly Change[];
  readonly told: readonly string[];
  readonly moves?: Moves;
  /** Where a place that was counted in the edited song stands. */
  readonly placed: (tick: number) => number;
}

type Music = Exclude<z.infer<typeof barsOrBeats>, typeof byItsNotes>;

/** What music keeps where that was not chosen: a song without notes its bars, one with notes its beats. */
export const musicOf = (song: Song, music: z.infer<typeof barsOrBeats>): Music =>
  music !== byItsNotes
    ? music
    : song.tracks.some(({ events }) => events.status.some((s) => s >> 4 === 9))
      ? 'keeps its beats'
      : 'keeps its bars';

/** The music after its meters were edited, with what that did to bars and to what stood on their lines. */
export function withMeters(
  before: Song,
  edited: { readonly song: Song; readonly changes: readonly Change[] },
  { music, beyond }: { readonly music: Music; readonly beyond: Beyond },
): Metered {
  const { song, changes } = edited;
  if (changes.length === 0) return { song, changes, told: [], placed: (tick) => tick };
  if (music !== 'keeps its bars')
    return { song, changes, told: offLines(before, song), placed: (tick) => tick };
  const kept = keepBars(before, song, beyond);
  const said = [
    ...(kept.moved > 0 ? [`${counted(kept.moved, 'event')} moved along with the bars`] : []),
    ...kept.said,
  ].join('; ');
  const named = new Set(changes.map((c) => c.track));
  const others = kept.byTrack
    .filter(({ id }) => !named.has(id))
    .map(({ id, count }): Change => ({
      track: id,
      name: trackLabel(song, findTrack(song, id)!),
      did: 'changed',
      counts: count > 0 ? { event: count } : {},
    }));
  return {
    song: kept.song,
    changes: [
      ...changes.map((c, n) =>
        n === 0 && said ? { ...c, detail: [c.detail, said].filter(Boolean).join('; ') } : c,
      ),
      ...others,
    ],
    told: [],
    moves: kept.moves,
    placed: kept.placed,
  };
}

/** What stood on bar lines and stands inside bars since the lines moved, with what keeps it there. */
function offLines(before: Song, after: Song): string[] {
  const [old, now] = [before, after].map((s) => meterMap(timingOf(s).meters, s.division)) as [
    ReturnType<typeof meterMap>,
    ReturnType<typeof meterMap>,
  ];
  const isOn = (map: typeof old, tick: number): boolean =>
    barTick(map, positionAt(map, tick).bar) === tick;
  const { markers, cuePoints, sections, tempos, keys } = timingOf(before);
  const counts = (
    [
      [markers, 'marker'],
      [cuePoints, 'cue point'],
      [sections.map((s) => ({ atTick: s.fromTick })), 'section'],
      [tempos, 'tempo'],
      [keys, 'key'],
    ] as const
  ).flatMap(([list, word]) => {
    const off = list.filter(({ atTick }) => isOn(old, atTick) && !isOn(now, atTick)).length;
    return off > 0 ? [counted(off, word)] : [];
  });
  return counts.length === 0
    ? []
    : [
        `No longer on a bar line: ${counts.join(', ')}. Choose “keeps its bars” to keep them there.`,
      ];
}
