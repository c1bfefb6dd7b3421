import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { META, payloadOf, type Events } from '../../../smf/events.ts';
import { decodeText, textEncodings, type TextEncodingName } from '../../../smf/text.ts';
import { stays } from '../../../smf/own-events.ts';
import { shownText, trackLabel } from '../../../song/song.ts';
import { defineOperation, emptyReport, type Change } from '../../operation.ts';

/** Texts that are quoted for each track, so that it can be told by eye which encoding is the right one. */
const mostQuoted = 3;

/** How the song's texts are read: not a byte of them changes, and what is written from now on is written so. */
export const songEncoding = defineOperation({
  id: 'song.encoding',
  version: 1,
  title: 'Read texts in another encoding',
  summary:
    'Says in which encoding the names, markers and lyrics are that are not UTF-8. No byte of them changes; what you write from now on is written so.',
  group: 'song',
  scope: 'song',
  settings: z.strictObject({ encoding: z.enum(textEncodings).meta({ title: 'Texts are' }) }),
  apply(song, { encoding }) {
    if (song.encoding === encoding) return ok({ song, report: emptyReport });
    const after = { ...song, encoding };
    const tracks = song.tracks.flatMap((track): Change[] => {
      const { texts, quoted } = readOtherwise(track.events, song.encoding, encoding);
      return texts === 0
        ? []
        : [
            {
              track: track.id,
              name: trackLabel(after, track),
              did: 'changed',
              counts: { text: texts },
              detail: `reads ${quoted.join(', ')}`,
            },
          ];
    });
    const own: Change = {
      name: song.title,
      did: 'named',
      counts: {},
      detail: `${encoding} instead of ${song.encoding}${tracks.length === 0 ? '; no text reads otherwise' : ''}`,
    };
    return ok({ song: after, report: { changes: [own, ...tracks], skipped: [] } });
  },
  describe: ({ encoding }) => `Read texts as ${encoding}`,
  examples: [
    { says: 'Japanese names from an older program', settings: { encoding: 'Shift-JIS' } },
    { says: 'Cyrillic names from an older program', settings: { encoding: 'Windows-1251' } },
  ],
});

/** How many texts of a track read otherwise in another encoding, and what the first of them say. */
function readOtherwise(
  events: Events,
  from: TextEncodingName,
  to: TextEncodingName,
): { texts: number; quoted: string[] } {
  let texts = 0;
  const quoted: string[] = [];
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] !== META) continue;
    const bytes =
      stays(events, i)?.text ??
      (events.data1[i]! >= 1 && events.data1[i]! <= 15 ? payloadOf(events, i) : undefined);
    if (!bytes || bytes.every((b) => b < 0x80)) continue;
    const [before, now] = [decodeText(bytes, from), decodeText(bytes, to)];
    if (before === now) continue;
    texts++;
    if (quoted.length < mostQuoted) quoted.push(`“${shownText(now)}” for “${shownText(before)}”`);
  }
  return { texts, quoted };
}
