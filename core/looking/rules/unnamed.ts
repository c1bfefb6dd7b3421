import { percussionChannel, programNames } from '../../instruments/general-midi.ts';
import { onTracks, type Noticed, type Settling } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** "Track 3", "Inst 12", "7": names that only count. */
const onlyCounts =
  /^(track|trk|inst|instrument|part|channel|ch|midi|spur|piste|pista|staff)?[\s._#-]*\d+$/i;

/** What the part's first program would call it; undefined where it has none. */
function programName({ track: { events } }: LookedTrack): string | undefined {
  const channel = events.status.find((s) => s < 0xf0);
  if (channel !== undefined && (channel & 15) === percussionChannel) return 'Drums';
  const at = events.status.findIndex((s) => s >> 4 === 0xc);
  return at === -1 ? undefined : programNames[events.data1[at]!];
}

export function unnamed({ parts }: LookedSong): Noticed[] {
  return parts
    .filter((t) => t.name === '' || onlyCounts.test(t.name))
    .map((t) => {
      const name = programName(t);
      const settle: Settling[] = name
        ? [
            {
              title: `Name it “${name}”`,
              operation: 'tracks.rename',
              settings: { name },
              scope: onTracks(t.id),
            },
          ]
        : [];
      const title = t.name === '' ? 'A part has no name' : `“${t.name}” is no name`;
      return {
        title,
        why: 'At the other end nobody will know what this part is, and automatic assignment goes by names.',
        tracks: [t.id],
        count: t.notes.count,
        sure: 'certain',
        settle,
      };
    });
}
