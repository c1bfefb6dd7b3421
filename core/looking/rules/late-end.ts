import { META, type Events } from '../../smf/events.ts';
import { barsUntil } from '../../timing/meter-map.ts';
import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Bars of nothing at the end before it is told. */
const leastBars = 8;

/**
 * Tick of a track's last event but its end and system exclusive; 0 where it has none. Marks may stand
 * behind the music on purpose; they count as music here.
 */
export function lastEventOf(events: Events): number {
  for (let i = events.count - 2; i >= 0; i--)
    if (events.status[i] === META || events.status[i]! < 0xf0) return events.atTick[i]!;
  return 0;
}

/** An end far behind the music: everything before it is empty. */
export function lateEnd({ tracks, parts, meters, timing }: LookedSong): Noticed[] {
  if (parts.length === 0) return [];
  const last = tracks.reduce((tick, t) => Math.max(tick, t.look.lastEvent), 0);
  const bars = barsUntil(meters, timing.endTick) - barsUntil(meters, last);
  if (bars < leastBars) return [];
  const needed = barsUntil(meters, last);
  return [
    {
      title: `The song ends ${bars.toLocaleString('en')} bars after its last event`,
      why: 'The other side loops, prints or renders all of that silence. If it is meant, leave it.',
      tracks: [],
      bars: { from: needed + 1, to: needed + bars },
      count: bars,
      sure: 'possible',
      settle: [
        {
          title: `End with bar ${needed.toLocaleString('en')}`,
          operation: 'timing.length',
          settings: { bars: Math.min(100_000, needed) },
          scope: { tracks: 'all' },
        },
      ],
    },
  ];
}
