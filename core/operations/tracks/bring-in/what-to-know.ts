import { counted } from '../../../edit/rewrite.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import {
  barTick,
  meterAt,
  meterMap,
  positionAt,
  type MeterMap,
} from '../../../timing/meter-map.ts';
import type { Landing } from '../../../edit/landing.ts';

const barsOf = (song: Song): MeterMap => meterMap(timingOf(song).meters, song.division);
const meterWords = (map: MeterMap, tick: number): string =>
  (({ numerator, denominator }) => `${numerator}/${denominator}`)(meterAt(map, tick));

/**
 * The first bar of a source, its own bars counted from `firstBar`, that lands on no bar line of a song, or
 * is of another length, in words; undefined where all of them agree.
 */
export function barsApart(
  song: Song,
  source: Song,
  landing: Landing,
  firstBar: number,
): string | undefined {
  const [there, here] = [barsOf(source), barsOf(song)];
  for (const bar of barsToCompare(there, here, landing, timingOf(source).endTick)) {
    const tick = barTick(there, bar);
    const lands = Math.round(landing(tick));
    const at = positionAt(here, lands);
    const [begins, ends] = [barTick(here, at.bar), barTick(here, at.bar + 1)];
    const near = Math.abs(lands - begins) <= 1 || Math.abs(ends - lands) <= 1;
    const length = landing(barTick(there, bar + 1)) - landing(tick);
    if (near && Math.abs(length - (ends - begins)) <= 1) continue;
    const its = bar + firstBar - 1;
    return near
      ? `From its bar ${its} on, bar ${at.bar} here, its bars of ${meterWords(there, tick)} do not agree with those of this song, of ${meterWords(here, lands)}: its meters can be taken, too.`
      : `Its bar ${its} begins inside bar ${at.bar} here.`;
  }
  return undefined;
}

/**
 * Bars of the source at which a meter begins here or there, and those behind: between them bars that agree
 * go on agreeing, since all are alike.
 */
function barsToCompare(
  there: MeterMap,
  here: MeterMap,
  landing: Landing,
  endTick: number,
): number[] {
  const begins = landing(0);
  const ratio = landing(1) - begins;
  const changes = here
    .map(({ atTick }) => (atTick - begins) / ratio)
    .filter((tick) => tick >= 0)
    .map((tick) => positionAt(there, tick).bar);
  const bars = new Set(
    [1, ...there.map((span) => span.bar), ...changes].flatMap((bar) => [bar, bar + 1]),
  );
  return [...bars]
    .filter((bar) => bar === 1 || barTick(there, bar) <= endTick)
    .sort((a, b) => a - b);
}

/** How much longer a song is than before, in words. */
export function longer(before: Song, after: Song): string | undefined {
  const lastBar = (song: Song): number =>
    ((end) => positionAt(barsOf(song), Math.max(0, end - 1)).bar)(timingOf(song).endTick);
  const [was, is] = [lastBar(before), lastBar(after)];
  return is > was ? `The song gets ${counted(is - was, 'bar')} longer, to bar ${is}.` : undefined;
}
