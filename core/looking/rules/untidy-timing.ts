import { isTiming, repeats } from '../../operations/timing-tidy/operation.ts';
import type { Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function untidyTiming({ tracks, song }: LookedSong): Noticed[] {
  let elsewhere = 0;
  for (const { track: { events } } of tracks.slice(1)) for (let i = 0; i < events.count; i++) if (isTiming(events, i)) elsewhere++;
  const again = repeats(song.tracks[0]!.events).size;
  if (elsewhere + again === 0) return [];
  const title = [elsewhere > 0 && `${elsewhere} tempo or meter events stand outside the first track`, again > 0 && `${again} state again what is in force`].filter(Boolean).join('; ');
  return [
    {
      title,
      why: elsewhere > 0 ? 'Many programs read the tempo map from the first track only and would play at another tempo.' : 'They hide the changes that matter.',
      tracks: [], count: elsewhere + again, sure: 'certain',
      settle: [{ title: 'Tidy the tempo map', operation: 'timing.tidy', settings: {}, scope: { tracks: 'all' } }],
    },
  ];
}
