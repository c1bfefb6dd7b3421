import { shredsIn } from '../../timing/shreds.ts';
import { positionAt } from '../../timing/meter-map.ts';
import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Gradual tempo changes written as very many small steps. */
export function shredded({ timing, meters, quarter, song }: LookedSong): Noticed[] {
  if (song.division.kind === 'smpte') return [];
  const found = shredsIn(timing.tempos, quarter);
  if (found.length === 0) return [];
  const count = found.reduce((n, s) => n + s.last - s.first + 1, 0);
  const barOf = (n: number): number => positionAt(meters, timing.tempos[n]!.atTick).bar;
  const [{ from, to }] = found as [(typeof found)[0]];
  const title =
    found.length === 1
      ? `A tempo change from ${Math.round(from)} to ${Math.round(to)} BPM is shredded into ${count.toLocaleString('en')} steps`
      : `${found.length} gradual tempo changes are shredded into ${count.toLocaleString('en')} steps`;
  return [
    {
      title,
      why: 'Nobody can edit a map of hundreds of tempos, and some programs and keyboards stop reading them. A few steps sound the same.',
      tracks: [],
      bars: { from: barOf(found[0]!.first), to: barOf(found.at(-1)!.last) },
      count,
      sure: 'certain',
      settle: [
        {
          title: 'Thin, within a millisecond',
          operation: 'timing.thin-tempo',
          settings: { error: 1 },
          scope: { tracks: 'all' },
        },
      ],
    },
  ];
}
