import { SYSEX, SYSEX_PACKET } from '../../smf/events.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** System exclusive: settings for one maker's instrument, or for all at once. */
export function systemExclusive({ tracks }: LookedSong): Noticed[] {
  return tracks.flatMap((t): Noticed[] => {
    const { status } = t.track.events;
    let count = 0;
    for (const s of status) if (s === SYSEX || s === SYSEX_PACKET) count++;
    if (count === 0) return [];
    return [
      {
        title: `${t.label} sends system exclusive${count === 1 ? '' : ` ${count.toLocaleString('en')} times`}`,
        why: 'It resets or sets up the instrument it was made on. Another ignores it, or loses its own settings to it.',
        tracks: [t.id],
        count,
        sure: 'possible',
        settle: [
          {
            title: 'Take it out',
            operation: 'events.remove',
            settings: { kinds: ['system exclusive'] },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
