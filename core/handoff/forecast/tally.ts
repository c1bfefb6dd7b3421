import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { barTick, barsUntil, meterMap } from '../../timing/meter-map.ts';
import { lossOfRow } from './judge/arrival.ts';
import { isOfMap } from './judge/atoms-of.ts';
import type { Limits } from '../receiver/receiver.ts';
import type { Wanted } from '../settings.ts';
import type { Following } from './judge/following.ts';
import type { What } from './item.ts';
import {
  aspects,
  bit,
  isByReceiver,
  isLost,
  lossOf,
  notAsked,
  ofItsKind,
  same,
  type Aspect,
} from './judge/outcome.ts';

/** One thing that is told, before it has words. */
export interface Told {
  readonly what: What;
  readonly arrives: 'not' | 'changed';
  readonly by: 'setting' | 'receiver';
  count: number;
  readonly tracks: Set<string>;
  readonly bars: Set<number>;
  /** Of a kind that changed: in which ways. */
  ways: number;
}

const own: ReadonlySet<Aspect> = new Set(ofItsKind);
const ofKind = ofItsKind.reduce((bits, way) => bits | bit[way], 0);
const ways = aspects.filter((a) => !own.has(a)) as Exclude<Aspect, (typeof ofItsKind)[number]>[];

const byReceiver: ReadonlySet<Aspect> = new Set(['drums', 'keySwitches', 'kits', 'ports']);

/** Counts what became of the events of a song, by what is told of it. */
export class Tally {
  private readonly told = new Map<string, Told>();
  private readonly song: Song;
  private readonly barAt: (tick: number) => number;

  private readonly wanted: Wanted;
  private readonly limits: Limits;

  constructor(song: Song, wanted: Wanted, limits: Limits) {
    this.song = song;
    this.wanted = wanted;
    this.limits = limits;
    this.barAt = barFinder(song);
  }

  all(): Told[] {
    return [...this.told.values()];
  }

  add(
    what: What,
    arrives: Told['arrives'],
    by: Told['by'],
    { track, tick, bits = 0 }: { track?: string; tick?: number; bits?: number } = {},
  ): void {
    const key = `${what} ${arrives} ${by}`;
    let told = this.told.get(key);
    if (!told)
      this.told.set(
        key,
        (told = { what, arrives, by, count: 0, tracks: new Set(), bars: new Set(), ways: 0 }),
      );
    told.count++;
    told.ways |= bits;
    if (track !== undefined) told.tracks.add(track);
    if (tick !== undefined) told.bars.add(this.barAt(tick));
  }

  /** Everything that was followed; what lies in files that are not opened is told by those files. */
  events(following: Following): void {
    this.rows(following);
    for (const told of this.told.values())
      if (told.what === 'files') told.count = following.unopened;
  }

  private rows(following: Following): void {
    const { outcomes, known } = following;
    this.song.tracks.forEach((track, n) => {
      const { events, id } = track;
      const rows = outcomes[n]!;
      const asked = following.chosen.has(n);
      for (let row = 0; row < events.count; row++) {
        const outcome = rows[row]!;
        if (outcome === same) continue;
        const at = { track: id, tick: events.atTick[row]! };
        if (outcome === notAsked) {
          const loss = lossOfRow(events, row);
          if (loss === undefined) continue;
          if (this.wanted.divide !== 'map' || isOfMap(loss))
            this.add(asked ? 'bars' : 'chosenTracks', 'not', 'setting', at);
          // The map alone lacks each kind.
          else
            this.add(
              loss,
              'not',
              isLost(following.sentAsItIs(n, row)) ? 'receiver' : 'setting',
              at,
            );
        } else if (isLost(outcome))
          this.add(lossOf(outcome), 'not', isByReceiver(outcome) ? 'receiver' : 'setting', at);
        else {
          for (const way of ways)
            if (outcome & bit[way]) this.add(way, 'changed', this.whoChanges(way), at);
          if (outcome & ofKind) {
            const loss = lossOfRow(events, row)!;
            const what = loss === 'markers' && known.isSection(track, row) ? 'sections' : loss;
            const by = this.whoChangesKind(outcome, what === 'markers');
            this.add(what, 'changed', by, { ...at, bits: outcome & ofKind });
          }
        }
      }
    });
  }

  private whoChanges(way: Aspect): Told['by'] {
    if (byReceiver.has(way)) return 'receiver';
    const untouched = this.wanted.form.tempo === 'as it is' && this.wanted.take.tempo;
    return way === 'time' && this.limits.tempo !== 'map' && untouched ? 'receiver' : 'setting';
  }

  private whoChangesKind(outcome: number, isMark: boolean): Told['by'] {
    const { text, longestName, longestMark } = this.wanted.form;
    if (outcome & bit.letters) return text === 'as they are' ? 'receiver' : 'setting';
    if (outcome & bit.cut)
      return (isMark ? longestMark : longestName) === null ? 'receiver' : 'setting';
    const merged = outcome & bit.form && !isMark && !this.limits.formats.includes(1);
    return merged ? 'receiver' : 'setting';
  }
}

/** Which bar a tick lies in, from 1; quick for ticks that come in order. */
function barFinder(song: Song): (tick: number) => number {
  const { meters: said, endTick } = timingOf(song);
  const meters = meterMap(said, song.division);
  const bars = barsUntil(meters, endTick) + 1;
  let [bar, from, to] = [1, 0, barTick(meters, 2)];
  return (tick) => {
    if (tick >= from && tick < to) return bar;
    let [low, high] = [1, bars];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (barTick(meters, middle) <= tick) low = middle;
      else high = middle - 1;
    }
    bar = low;
    from = barTick(meters, bar);
    to = bar === bars ? Infinity : barTick(meters, bar + 1);
    return bar;
  };
}

/** Bars as spans, in order. */
export function spansOf(bars: ReadonlySet<number>): { from: number; to: number }[] {
  const spans: { from: number; to: number }[] = [];
  for (const bar of [...bars].sort((a, b) => a - b)) {
    const last = spans.at(-1);
    if (last && last.to === bar - 1) last.to = bar;
    else spans.push({ from: bar, to: bar });
  }
  return spans;
}
