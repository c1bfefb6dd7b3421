import {
  landingInBars,
  landingInSeconds,
  landingTick,
  type Landing,
} from '../../../edit/landing.ts';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { barTick, meterMap, positionAt } from '../../../timing/meter-map.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from '../../../timing/tempo-map.ts';
import { framesToSeconds, parseTimecode } from '../../../timing/timecode.ts';
import type { BringIn, MapKind } from './settings.ts';

const invalid = (field: string, expected: string, found: string): Result<never> =>
  refused({ code: 'settings-invalid', where: { field: `settings.${field}` }, expected, found });

/** The tick on which the source's beginning falls, which is bar `firstBar` of where it was cut from. */
export function tickOfPlace(
  song: Song,
  { at, map }: Pick<BringIn, 'at' | 'map'>,
  firstBar: number,
): Result<number> {
  if ('own' in at) return ok(landingTick(song, firstBar));
  if ('bar' in at) return ok(landingTick(song, at.bar));
  const { timecode } = timingOf(song);
  if (!timecode) return invalid('at', 'a song that states its timecode', at.timecode);
  const frames = parseTimecode(at.timecode, timecode.rate);
  if (frames === undefined)
    return invalid('at', `an address that ${timecode.rate} frames a second has`, at.timecode);
  const tempos = tempoMap(timingOf(song).tempos, song.division);
  const seconds =
    ticksToSeconds(tempos, timecode.atTick) +
    framesToSeconds(frames - timecode.frames, timecode.rate);
  if (seconds < -1e-9) return invalid('at', 'an address in the song', `${at.timecode}, before it`);
  const tick = secondsToTicks(tempos, Math.max(0, seconds));
  const bars = meterMap(timingOf(song).meters, song.division);
  return map.meters !== 'none' && tick !== barTick(bars, positionAt(bars, tick).bar)
    ? invalid('at', 'a bar line, where its meters are taken', at.timecode)
    : ok(tick);
}

/** What is counted in quarter notes, of which a song of frames has none. */
const inQuarters: readonly MapKind[] = ['tempos', 'meters', 'keys'];

/** Where the ticks of the source fall: true to its bars, or as it sounded. */
export function landingFor(
  song: Song,
  source: Song,
  { keep, map }: Pick<BringIn, 'keep' | 'map'>,
  atTick: number,
): Result<{ ofMap: Landing; ofParts: (withMap: Song) => Landing }> {
  const inBars = landingInBars(song, source, atTick);
  const wanted = inQuarters.filter((kind) => map[kind] !== 'none');
  if (!inBars && keep === 'bars')
    return invalid('keep', 'seconds, where ticks are parts of frames', 'bars');
  if (!inBars && wanted.length > 0)
    return invalid('map', `no ${wanted.join(', ')}, where ticks are parts of frames`, 'them');
  // Meters and keys stand in bars: as it sounded they have places only where the tempos come along.
  const withTempos =
    map.tempos === 'replace' || (map.tempos === 'add' && timingOf(song).tempos.length === 0);
  const inTheirBars = wanted.filter((kind) => kind !== 'tempos');
  if (keep === 'seconds' && !withTempos && inTheirBars.length > 0)
    return invalid(
      'map',
      `its tempos too, or bars kept, where ${inTheirBars.join(' and ')} are taken`,
      'seconds kept without tempos',
    );
  return ok({
    ofMap: keep === 'bars' || withTempos ? inBars! : landingInSeconds(song, source, atTick),
    ofParts: (withMap) => (keep === 'bars' ? inBars! : landingInSeconds(withMap, source, atTick)),
  });
}
