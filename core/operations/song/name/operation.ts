import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { hasMapTrack } from '../../../song/song.ts';
import { defineOperation, emptyReport } from '../../operation.ts';
import { plainName } from '../../../edit/plain-text.ts';

/**
 * Names the song. Where the first track holds only the song's own facts, its name event is the song's name
 * in the file too (SMF 1.0: the name in the first track of a format 1 file is the sequence's).
 */
export const songName = defineOperation({
  id: 'song.name',
  version: 1,
  title: 'Name the song',
  summary:
    'Gives the song a name: in the list, in the names of files handed off, and in the file where it has a place for it.',
  group: 'song',
  scope: 'song',
  settings: z.strictObject({ title: plainName('Name') }),
  apply(song, { title }) {
    const [first, ...others] = song.tracks;
    const named = hasMapTrack(song) ? withTrackName(first!, title, song.encoding) : first!;
    if (song.title === title && named === first) return ok({ song, report: emptyReport });
    const change = {
      name: title,
      did: 'named' as const,
      counts: named === first ? {} : { name: 1 },
      ...(named === first ? {} : { track: named.id }),
    };
    return ok({
      song: { ...song, title, tracks: [named, ...others] },
      report: { changes: [change], skipped: [] },
    });
  },
  describe: ({ title }) => `Named the song “${title}”`,
  examples: [
    { says: 'Give the song the name people know it by', settings: { title: 'The Lantern Ferry' } },
  ],
});
