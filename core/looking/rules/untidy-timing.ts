import { isTiming, repeats } from '../../edit/timing-events.ts';
import type { Events } from '../../smf/events.ts';
import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** How many events of the tempo map a track has, and how many of them state again what is in force. */
export function timingIn(events: Events): { events: number; again: number } {
  let count = 0;
  for (let i = 0; i < events.count; i++) if (isTiming(events, i)) count++;
  return { events: count, again: count === 0 ? 0 : repeats(events).size };
}

export function untidyTiming({ tracks }: LookedSong): Noticed[] {
  const elsewhere = tracks.slice(1).reduce((sum, t) => sum + t.look.timing.events, 0);
  const again = tracks[0]?.look.timing.again ?? 0;
  if (elsewhere + again === 0) return [];
  const title = [
    elsewhere > 0 && `${elsewhere} tempo or meter events stand outside the first track`,
    again > 0 && `${again} state again what is in force`,
  ]
    .filter(Boolean)
    .join('; ');
  return [
    {
      title,
      why:
        elsewhere > 0
          ? 'Many programs read the tempo map from the first track only and would play at another tempo.'
          : 'They hide the changes that matter.',
      tracks: [],
      count: elsewhere + again,
      sure: 'certain',
      settle: [
        {
          title: 'Tidy the tempo map',
          operation: 'timing.tidy',
          settings: {},
          scope: { tracks: 'all' },
        },
      ],
    },
  ];
}
