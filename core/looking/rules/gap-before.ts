import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/**
 * Bars before the first note of any part. They stay: whoever put them there wanted a count-in, or room for
 * a picture.
 */
export function gapBefore({ parts, barAt }: LookedSong): Noticed[] {
  if (parts.length === 0) return [];
  const first = parts.reduce((tick, t) => Math.min(tick, t.look.firstNote), Infinity);
  const bars = barAt(first) - 1;
  if (bars < 1) return [];
  return [
    {
      title:
        bars === 1
          ? 'A bar of rest stands before the music'
          : `${bars.toLocaleString('en')} bars of rest stand before the music`,
      why: 'It is kept as it is, so that bar numbers stay true; some programs cut it off when a file is brought in, and then nothing lines up.',
      tracks: [],
      bars: { from: 1, to: bars },
      count: bars,
      sure: 'certain',
      settle: [],
    },
  ];
}
