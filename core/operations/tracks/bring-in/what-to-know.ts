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

/** So many bars are held against each other; a file of more is one of other trouble. */
const mostBars = 20_000;

const barsOf = (song: Song): MeterMap => meterMap(timingOf(song).meters, song.division);
const meterWords = (map: MeterMap, tick: number): string =>
  (({ numerator, denominator }) => `${numerator}/${denominator}`)(meterAt(map, tick));

/** The first bar of a song that lands on no bar line of the other, in words; undefined where all of them agree. */
export function barsApart(song: Song, source: Song, landing: Landing): string | undefined {
  const [there, here] = [barsOf(source), barsOf(song)];
  const { endTick } = timingOf(source);
  for (let bar = 1; bar <= mostBars; bar++) {
    const tick = barTick(there, bar);
    if (tick > endTick && bar > 1) return undefined;
    const lands = Math.round(landing(tick));
    const at = positionAt(here, lands);
    const near =
      Math.abs(lands - barTick(here, at.bar)) <= 1 ||
      Math.abs(barTick(here, at.bar + 1) - lands) <= 1;
    const length = landing(barTick(there, bar + 1)) - landing(tick);
    const own = barTick(here, at.bar + 1) - barTick(here, at.bar);
    if (near && Math.abs(length - own) <= 1) continue;
    return near
      ? `From its bar ${bar} on, bar ${at.bar} here, its bars of ${meterWords(there, tick)} do not agree with those of this song, of ${meterWords(here, lands)}: its meters can be taken, too.`
      : `Its bar ${bar} begins inside bar ${at.bar} here.`;
  }
  return undefined;
}

/** How much longer a song is than before, in words. */
export function longer(before: Song, after: Song): string | undefined {
  const lastBar = (song: Song): number =>
    ((end) => positionAt(barsOf(song), Math.max(0, end - 1)).bar)(timingOf(song).endTick);
  const [was, is] = [lastBar(before), lastBar(after)];
  return is > was ? `The song gets ${counted(is - was, 'bar')} longer, to bar ${is}.` : undefined;
}
