import { META, meta } from '../../smf/events.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

const onlyNames: ReadonlySet<number> = new Set([meta.trackName, meta.instrumentName, meta.endOfTrack, meta.channelPrefix, meta.port]);

/** Nothing but a name: no message, no text, no timing. */
const isEmpty = ({ track: { events } }: LookedTrack): boolean => events.status.every((s, i) => s === META && onlyNames.has(events.data1[i]!));

export function emptyTracks({ tracks, parts }: LookedSong): Noticed[] {
  const empty = tracks.filter((t, i) => i > 0 && isEmpty(t)).map((t) => t.id);
  if (empty.length === 0 || parts.length === 0) return [];
  return [
    {
      title: empty.length === 1 ? 'A track is empty' : `${empty.length} tracks are empty`,
      why: 'Empty tracks take up rows and instruments at the other end.',
      tracks: empty, count: empty.length, sure: 'certain',
      settle: [{ title: 'Remove', operation: 'tracks.remove', settings: {}, scope: on(...empty) }],
    },
  ];
}
