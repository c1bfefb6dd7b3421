import { z } from 'zod';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { anchors, type Anchor } from '../timing/marks.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';

export const anchorSetting = z.enum(anchors).default('bars').meta({
  title: 'It belongs to',
  description:
    'Bars: it moves with them. Time: it stays at its timecode, or its second, whatever bars and tempos do.',
});

/** What makes a mark at a tick of a song belong to bars, or to the time that it stands at. */
export function anchored(
  song: Song,
): (atTick: number, anchor: Anchor) => { readonly seconds?: number } {
  const map = tempoMap(timingOf(song).tempos, song.division);
  return (atTick, anchor) => (anchor === 'time' ? { seconds: ticksToSeconds(map, atTick) } : {});
}
