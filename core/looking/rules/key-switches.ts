import { keySwitchesIn } from '../../edit/key-switches.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function keySwitches({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const found = keySwitchesIn(t.track.events);
    if (!found) return [];
    const { lowest, highest, count, end } = found;
    return [
      {
        title: `${t.label} has ${count} ${count === 1 ? 'note' : 'notes'} far ${end === 'low' ? 'below' : 'above'} its music that look like key switches`,
        why: 'They choose articulations of one instrument; on any other they are heard as wrong notes.',
        tracks: [t.id],
        count,
        sure: 'likely',
        settle: [
          {
            title: 'Remove them',
            operation: 'notes.remove',
            settings: { lowestKey: lowest, highestKey: highest },
            scope: onTracks(t.id),
          },
          {
            title: 'Split them off',
            operation: 'tracks.split-by-pitch',
            settings: { key: end === 'low' ? highest + 1 : lowest, along: false },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
