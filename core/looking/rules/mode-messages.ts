import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/**
 * Channel mode messages beyond resets (MIDI 1.0): how an instrument listens and how many notes it sounds at
 * once. Each of them also ends all notes.
 */
const modes = new Map([
  [124, 'omni off'],
  [125, 'omni on'],
  [126, 'mono'],
  [127, 'poly'],
]);

/** Modes that a part sets: the instrument at the other end listens or sounds otherwise, and goes on doing so. */
export function modeMessages({ tracks }: LookedSong): Noticed[] {
  return tracks.flatMap((t): Noticed[] => {
    const { status, data1, count } = t.track.events;
    const used = new Set<number>();
    let times = 0;
    for (let i = 0; i < count; i++) {
      if (status[i]! >> 4 !== 0xb || !modes.has(data1[i]!)) continue;
      used.add(data1[i]!);
      times++;
    }
    if (times === 0) return [];
    return [
      {
        title: `${t.label} sets ${[...used]
          .sort((a, b) => a - b)
          .map((m) => modes.get(m)!)
          .join(' and ')} mode`,
        why: 'An instrument in omni mode plays what all channels say, one in mono mode a single note at a time; each of these messages also ends every note that sounds.',
        tracks: [t.id],
        count: times,
        sure: 'likely',
        settle: [
          {
            title: 'Take the modes out',
            operation: 'events.remove',
            settings: { controllers: [...used].sort((a, b) => a - b) },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
