import type { Timing } from '../timing/timing.ts';
import type { BeatGrid } from './beat-grid.ts';
import {
  keyLikelihoods,
  keyOfPoint,
  keys,
  saidKey,
  sameKey,
  signatureOf,
  type Key,
} from './find-keys.ts';
import type { HeardBeats } from './heard-beats.ts';
import { keySignatureText } from '../song/key-names.ts';
import { pitchClass, type KeySpelling } from './spelling.ts';

/** A stretch of music in one key. */
export interface KeyRegion {
  readonly fromTick: number;
  readonly toTick: number;
  /** Bars, both included. */
  readonly fromBar: number;
  readonly toBar: number;
  readonly key: Key;
  /** How it is written: as the song says it, where it does. */
  readonly spelled: KeySpelling;
  /** “D minor”. */
  readonly name: string;
  /** 0–1. */
  readonly sure: number;
  readonly others: readonly { readonly name: string; readonly sure: number }[];
  /** The section it is the key of, where the song has sections. */
  readonly section?: string;
}

/** What the lowest note on the first beat of a bar says of a key, by its degree: tonic and dominant most. */
const bassLogs = [0.34, 0.01, 0.08, 0.03, 0.05, 0.14, 0.02, 0.22, 0.03, 0.06, 0.03, 0.03].map(
  Math.log,
);
const counts = { notes: 2.6, bass: 0.55, said: 3, frame: 2 };
/** What going to another key costs, in bars' worth. */
const changeCost = 9;
const doubt = 2.5;

const keyText = ({ sharps, minor }: KeySpelling): string => keySignatureText(sharps, minor);

/**
 * The keys of a stretch: one for each section, where the song has sections or markers that name some, else from one change to the next as
 * they are told bar by bar.
 */
export function keyRegions(timing: Timing, grid: BeatGrid, heard: HeardBeats): KeyRegion[] {
  const bars = barsOf(grid);
  const fits = bars.map((bar) => barFit(bar, heard));
  const spans = spansOf(timing, bars);
  const regions = spans
    ? spans.map((span) => ({ ...span, key: -1 }))
    : changesIn(fits, timing, bars);
  return regions.flatMap(({ from, to, section }) => {
    const sum = new Float64Array(24);
    for (let b = from; b < to; b++) fits[b]!.forEach((f, n) => (sum[n]! += f));
    if (sum.every((s) => s === 0)) return [];
    const said = saidKey(timing.keys, bars[from]!.tick);
    keys.forEach((key, n) => {
      if (said && sameKey(keyOfPoint(said), key)) sum[n]! += counts.said;
      // Music begins and ends on its tonic more than on anything else.
      for (const edge of [from, to - 1]) {
        const { first, beats } = bars[edge]!;
        const low = edge === from ? heard.bass[first]! : lastBass(heard, first, beats);
        if (low >= 0 && low % 12 === key.tonic) sum[n]! += counts.frame;
      }
    });
    return [
      region(sum, { from, to, ...(section === undefined ? {} : { section }) }, bars, grid, said),
    ];
  });
}

interface Bar {
  readonly tick: number;
  readonly bar: number;
  readonly first: number;
  readonly beats: number;
}

function barsOf(grid: BeatGrid): Bar[] {
  const bars: { tick: number; bar: number; first: number; beats: number }[] = [];
  for (let b = 0; b < grid.bar.length; b++) {
    const last = bars.at(-1);
    if (last && last.bar === grid.bar[b]) last.beats++;
    else bars.push({ tick: grid.ticks[b]!, bar: grid.bar[b]!, first: b, beats: 1 });
  }
  return bars;
}

function barFit({ first, beats }: Bar, { weights, bass }: HeardBeats): Float64Array {
  const sums = new Float64Array(12);
  let all = 0;
  for (let i = first * 12; i < (first + beats) * 12; i++) {
    sums[i % 12]! += weights[i]!;
    all += weights[i]!;
  }
  if (all === 0) return new Float64Array(24);
  const shares = sums.map((s) => s / all);
  const low = bass[first]!;
  return keyLikelihoods(shares).map(
    (f, n) =>
      counts.notes * f +
      (low < 0 ? 0 : counts.bass * bassLogs[pitchClass((low % 12) - keys[n]!.tonic)]!),
  );
}

function lastBass({ bass }: HeardBeats, first: number, beats: number): number {
  for (let b = first + beats - 1; b >= first; b--) if (bass[b]! >= 0) return bass[b]!;
  return -1;
}

interface Span {
  readonly from: number;
  readonly to: number;
  readonly section?: string;
}

/** Bars of sections, and of what lies between them; undefined where the song has none. */
/** Markers that are so many bars apart, on average, name sections. */
const barsApart = 4;

function sectionsOf(
  { sections, markers, endTick }: Timing,
  bars: readonly Bar[],
): readonly { readonly name: string; readonly fromTick: number; readonly toTick: number }[] {
  if (sections.length > 0) return sections;
  if (markers.length < 2 || bars.length / markers.length < barsApart) return [];
  return markers.map(({ text, atTick }, n) => ({
    name: text,
    fromTick: atTick,
    toTick: markers[n + 1]?.atTick ?? endTick,
  }));
}

function spansOf(timing: Timing, bars: readonly Bar[]): Span[] | undefined {
  const sections = sectionsOf(timing, bars);
  if (sections.length === 0) return undefined;
  const end = bars.length;
  const barAt = (tick: number): number => {
    const at = bars.findIndex((b) => b.tick >= tick);
    return at === -1 ? end : at;
  };
  const spans: Span[] = [];
  let done = 0;
  for (const { name, fromTick, toTick } of [...sections].sort((a, b) => a.fromTick - b.fromTick)) {
    const [from, to] = [Math.max(done, barAt(fromTick)), barAt(toTick)];
    if (to <= from) continue;
    if (from > done) spans.push({ from: done, to: from });
    spans.push({ from, to, section: name });
    done = to;
  }
  if (done < end) spans.push({ from: done, to: end });
  return spans;
}

/** Where keys change, bar by bar: the path of least cost. */
function changesIn(fits: readonly Float64Array[], timing: Timing, bars: readonly Bar[]): Span[] {
  let score = new Float64Array(24);
  const cameFrom: Uint8Array[] = [];
  fits.forEach((fit, b) => {
    const said = saidKey(timing.keys, bars[b]!.tick);
    const top = score.indexOf(Math.max(...score));
    const from = new Uint8Array(24);
    const now = new Float64Array(24);
    for (let n = 0; n < 24; n++) {
      const comes = b > 0 && score[top]! - changeCost > score[n]!;
      from[n] = comes ? top : n;
      const hint = said && sameKey(keyOfPoint(said), keys[n]!) ? 0.1 : 0;
      now[n] = (comes ? score[top]! - changeCost : score[n]!) + fit[n]! + hint;
    }
    cameFrom.push(from);
    score = now;
  });
  let at = score.indexOf(Math.max(...score));
  const path = new Uint8Array(fits.length);
  for (let b = fits.length - 1; b >= 0; b--) {
    path[b] = at;
    at = cameFrom[b]![at]!;
  }
  const spans: { from: number; to: number }[] = [];
  path.forEach((key, b) => {
    if (b > 0 && path[b - 1] === key) spans.at(-1)!.to = b + 1;
    else spans.push({ from: b, to: b + 1 });
  });
  return spans;
}

function region(
  sum: Float64Array,
  { from, to, section }: Span,
  bars: readonly Bar[],
  grid: BeatGrid,
  said: KeySpelling | undefined,
): KeyRegion {
  const spelling = (n: number): KeySpelling =>
    said && sameKey(keyOfPoint(said), keys[n]!) ? said : signatureOf(keys[n]!);
  const nameOf = (n: number): string => keyText(spelling(n));
  const order = [...sum.keys()].sort((a, b) => sum[b]! - sum[a]!);
  const weight = (n: number): number => Math.exp((sum[n]! - sum[order[0]!]!) / doubt);
  const all = order.reduce((s, n) => s + weight(n), 0);
  const next = bars[to];
  return {
    fromTick: bars[from]!.tick,
    toTick: next?.tick ?? grid.ticks.at(-1)!,
    fromBar: bars[from]!.bar,
    toBar: bars[to - 1]!.bar,
    key: keys[order[0]!]!,
    spelled: spelling(order[0]!),
    name: nameOf(order[0]!),
    sure: 1 / all,
    others: order
      .slice(1, 4)
      .map((n) => ({ name: nameOf(n), sure: weight(n) / all }))
      .filter((o) => o.sure >= 0.01),
    ...(section === undefined ? {} : { section }),
  };
}
