import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function emptyTracks({ tracks, parts }: LookedSong): Noticed[] {
  const empty = tracks.filter((t, i) => i > 0 && t.look.empty).map((t) => t.id);
  if (empty.length === 0 || parts.length === 0) return [];
  return [
    {
      title: empty.length === 1 ? 'A track is empty' : `${empty.length} tracks are empty`,
      why: 'Empty tracks take up rows and instruments at the other end.',
      tracks: empty,
      count: empty.length,
      sure: 'certain',
      settle: [
        {
          title: 'Remove',
          operation: 'tracks.remove-empty',
          settings: {},
          scope: onTracks(...empty),
        },
      ],
    },
  ];
}
