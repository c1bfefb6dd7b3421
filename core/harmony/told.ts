import { barsUntil, meterMap } from '../timing/meter-map.ts';
import { quarterTicks } from '../timing/meter-map.ts';
import type { Song, Track } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { beatGrid, type BeatGrid } from './beat-grid.ts';
import { chordNotes, chordText, sameChord, type Chord } from './chord.ts';
import { chordPath, fit, templatesIn, type Stretch } from './chord-path.ts';
import { heardBeats, type HeardBeats } from './heard-beats.ts';
import { keyRegions, type KeyRegion } from './told-keys.ts';

/** A chord as it is told from what sounds. */
export interface ToldChord {
  readonly atTick: number;
  /** The tick at which it ends. */
  readonly toTick: number;
  /** The bars in which it begins and ends, from 1. */
  readonly bar: number;
  readonly toBar: number;
  readonly chord: Chord;
  readonly name: string;
  readonly notes: readonly string[];
  /** 0–1. */
  readonly sure: number;
  readonly others: readonly { readonly name: string; readonly sure: number }[];
}

export interface Harmony {
  readonly chords: readonly ToldChord[];
  readonly keys: readonly KeyRegion[];
}

/** More bars than anybody's song has: of longer ones no more than so many are told. */
export const mostBars = 20_000;

const known = new WeakMap<Song, Harmony>();

/** The chords and keys of a song, told from all that sounds and is no drum; worked out once. */
export function harmonyOf(song: Song): Harmony {
  const had = known.get(song);
  if (had) return had;
  const made = harmonyOfTracks(song, song.tracks);
  known.set(song, made);
  return made;
}

/** The same from some tracks alone, or of some bars. */
export function harmonyOfTracks(
  song: Song,
  tracks: readonly Track[],
  bars: { readonly from: number; readonly to: number } = { from: 1, to: Infinity },
): Harmony {
  const timing = timingOf(song);
  const meters = meterMap(timing.meters, song.division);
  const last = Math.min(barsUntil(meters, timing.endTick), bars.to, bars.from + mostBars - 1);
  const grid = beatGrid(meters, bars.from, last + 1);
  const heard = heardBeats(tracks, grid, quarterTicks(song.division));
  if (heard.notes === 0) return { chords: [], keys: [] };
  const keys = keyRegions(timing, grid, heard);
  // What sounds may do so where no bar is any more.
  if (keys.length === 0) return { chords: [], keys };
  const regionOf = (beat: number): KeyRegion =>
    keys.findLast((k) => k.fromTick <= grid.ticks[beat]!) ?? keys[0]!;
  const path = chordPath(grid, heard, (beat) => regionOf(beat).key);
  const chords = path.flatMap((stretch) => named(stretch, grid, heard, regionOf) ?? []);
  return { chords: joined(chords), keys };
}

/** Names that are half as likely are this much less sure. */
const doubt = 1.6;
/** A third or a seventh that sounds no more than this is not told. */
const leastShare = 0.03;
/** How much a stretch must speak for an unusual name. */
const plainness = 0.25;

/** What a stretch is called, once it is known where chords change: with what stands on top, and its bass. */
function named(
  stretch: Stretch,
  grid: BeatGrid,
  { weights, bass }: HeardBeats,
  regionOf: (beat: number) => KeyRegion,
): ToldChord | undefined {
  if (!stretch.template) return undefined;
  const { key, spelled } = regionOf(stretch.from);
  const sums = new Float64Array(12);
  for (let b = stretch.from; b < stretch.to; b++)
    for (let pitch = 0; pitch < 12; pitch++) sums[pitch]! += weights[b * 12 + pitch]!;
  const all = sums.reduce((a, b) => a + b, 0);
  const shares = sums.map((s) => s / all);
  const low = bassOfStretch(stretch, bass);
  const beats = Math.min(4, stretch.to - stretch.from);
  let audible = 0;
  shares.forEach((share, pitch) => {
    if (share > leastShare) audible |= 1 << pitch;
  });
  // A line that stays on one note has no chord.
  if ((audible & (audible - 1)) === 0) return undefined;
  const scored = templatesIn(key, true)
    .filter(({ needed }) => (needed & ~audible) === 0)
    .map((template) => ({
      template,
      score: fit(template, shares, low, 1) - plainness * template.quality.rare,
    }))
    .sort((a, b) => b.score - a.score)
    .slice(0, 8);
  if (scored.length === 0) scored.push({ template: stretch.template, score: 0 });
  const top = scored[0]!.score;
  const weight = (score: number): number => Math.exp(((score - top) * (1 + beats)) / doubt);
  const sum = scored.reduce((s, x) => s + weight(x.score), 0);
  const chordOf = ({ template: { root, quality } }: (typeof scored)[number]): Chord => ({
    root,
    quality,
    ...(low < 0 || low === root ? {} : { bass: low }),
  });
  const chord = chordOf(scored[0]!);
  const others = scored.slice(1, 4).map((s) => ({
    name: chordText(chordOf(s), spelled),
    sure: weight(s.score) / sum,
  }));
  return {
    atTick: grid.ticks[stretch.from]!,
    toTick: grid.ticks[stretch.to]!,
    bar: grid.bar[stretch.from]!,
    toBar: grid.bar[stretch.to - 1]!,
    chord,
    name: chordText(chord, spelled),
    notes: chordNotes(chord, spelled),
    sure: weight(top) / sum,
    others: others.filter((o) => o.sure >= 0.01),
  };
}

/** The pitch class that is lowest over a stretch: what begins it, where that is held or comes again; −1 for none. */
function bassOfStretch({ from, to }: Stretch, bass: Int16Array): number {
  const counts = new Float64Array(12);
  let all = 0;
  let first = -1;
  for (let b = from; b < to; b++) {
    if (bass[b]! < 0) continue;
    const pitch = bass[b]! % 12;
    if (first === -1) first = pitch;
    counts[pitch]! += b === from ? 1.5 : 1;
    all += b === from ? 1.5 : 1;
  }
  if (first === -1) return -1;
  return counts[first]! >= all * 0.4 ? first : counts.indexOf(Math.max(...counts));
}

/** Neighbours of one name are one chord. */
function joined(chords: readonly ToldChord[]): ToldChord[] {
  const list: ToldChord[] = [];
  for (const chord of chords) {
    const last = list.at(-1);
    if (last && last.toTick === chord.atTick && sameChord(last.chord, chord.chord))
      list[list.length - 1] = {
        ...last,
        toTick: chord.toTick,
        toBar: chord.toBar,
        sure: Math.max(last.sure, chord.sure),
      };
    else list.push(chord);
  }
  return list;
}
