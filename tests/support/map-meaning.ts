import type { Song } from '#core/song/song.ts';
import { timingOf } from '#core/song/timing-of.ts';

/**
 * The map of a song as it is meant: one of a kind a tick, in the order of the ticks; what says again what
 * is in force is nothing.
 */
export function mapMeaning(song: Song): unknown {
  const { tempos, meters, keys, markers, cuePoints, sections } = timingOf(song);
  const last = <T extends { atTick: number }>(list: readonly T[]): T[] =>
    list.filter((x, i) => list[i + 1]?.atTick !== x.atTick);
  // Before the first meter it is 4/4 (SMF 1.0).
  const all = [{ atTick: -1, numerator: 4, denominator: 4 }, ...last(meters)];
  const changes = all
    .slice(1)
    .filter((m, i) => m.numerator !== all[i]!.numerator || m.denominator !== all[i]!.denominator);
  const texts = (list: typeof markers): string[] => list.map((m) => `${m.atTick} ${m.text}`).sort();
  return {
    tempos: last(tempos),
    meters: changes,
    keys: last(keys),
    markers: texts(markers),
    cuePoints: texts(cuePoints),
    sections: sections.map((s) => `${s.fromTick} ${s.toTick} ${s.name}`).sort(),
  };
}
