import { meterMap, positionAt } from '../../timing/meter-map.ts';
import type { Difference } from './compare-ticks.ts';
import { isChosen, type PartCase } from './part-case.ts';
import { readSongMap } from './reading/song-map.ts';
import { outlineTrack } from './reading/track-outline.ts';

/** How long a part is: as its bars, with what rings over them where that is kept; no track is cut short. */
export function verifyLength(of: PartCase): Difference[] {
  const { song, part, wanted, leaving, places } = of;
  const { from, to } = places.span;
  if (leaving.tracks.length === 0) return [wrong('no track', 0)];
  const ends = readSongMap(leaving).lastTick;
  if (wanted.form.end === 'at the bar') return verifyBarEnd(of);
  const reach = places.reach + 0.5;
  const later = from - (part.span?.from ?? 0);
  const least = part.length === undefined ? 0 : places.at(from + part.length - later, 0);
  const short = leaving.tracks.find((t) => outlineTrack(t.events).lastTick < least - reach);
  if (short)
    return [wrong(`an end before tick ${least}`, outlineTrack(short.events).lastTick, short.id)];
  if (to === Infinity) {
    const whole = song.tracks
      .filter((t) => isChosen(of, t))
      .reduce((most, t) => Math.max(most, outlineTrack(t.events).lastTick), from);
    const expected = places.at(whole, 0);
    return ends < expected - reach
      ? [wrong(`an end instead of that at tick ${expected}`, ends)]
      : [];
  }
  const expected = places.at(to, places.times - 1);
  const mayRing = wanted.edges.notes === 'keep' || part.tracks?.size === 0;
  return ends < expected - reach || (!mayRing && ends > expected + places.reach + 1.5)
    ? [wrong(`an end instead of that at tick ${expected}`, ends)]
    : [];
}

const wrong = (what: string, tick: number, owner = 'song'): Difference => ({
  state: 'has',
  owner,
  what,
  tick,
});

/** Every track ends on the line of a bar, where bars are as in the song. */
function verifyBarEnd({ wanted, leaving, places }: PartCase): Difference[] {
  const { form, take } = wanted;
  if (form.tempo === 'one, as it sounds' || !take.meters || places.reach > 0) return [];
  const bars = meterMap(readSongMap(leaving).meters, leaving.division);
  return leaving.tracks.flatMap(({ id, events }) => {
    const end = outlineTrack(events).lastTick;
    const { beat, tick } = positionAt(bars, end);
    return beat === 1 && tick === 0 ? [] : [wrong('an end within a bar', end, id)];
  });
}
