import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import { endTick, isMeta, meta, metaEvent, payloadOf, type EventValue } from '../../smf/events.ts';
import { decodeText } from '../../smf/text.ts';
import { encodeFor } from '../../smf/text-encode.ts';
import { indexEvents } from '../../song/event-index.ts';
import { hasMapTrack, withEvents, type Song } from '../../song/song.ts';

/** Id of the track of words that is made. */
export const wordsTrack = 'words';

interface Syllable {
  readonly atTick: number;
  readonly text: string;
}

/**
 * The words of a song as soft-karaoke files carry them (common practice): in a track of their own behind
 * the first, `@K`, `@L` and `@T` texts first, then syllables as texts, `\` before a page and `/` before a
 * line. In lyrics the end of a line is a carriage return and that of a paragraph a line feed (RP-017, from
 * memory).
 */
export function inKaraokeOrder(song: Song, language: string): { song: Song; notes: string[] } {
  const says = (start: string) =>
    song.tracks.some(({ events }) => {
      for (let i = 0; i < events.count; i++)
        if (isMeta(events, i, meta.text) && textOf(song, payloadOf(events, i)).startsWith(start))
          return true;
      return false;
    });
  if (says('@K')) return { song, notes: ['Its words stand in karaoke order already.'] };
  const syllables = syllablesOf(song);
  if (syllables.length === 0)
    return { song, notes: ['There are no lyrics: the file has karaoke order, and no words.'] };
  const text = (atTick: number, said: string): EventValue =>
    metaEvent(atTick, meta.text, encodeFor(said, song.encoding));
  const words = eventsFrom([
    metaEvent(0, meta.trackName, encodeFor('Words', song.encoding)),
    text(0, '@KMIDI KARAOKE FILE'),
    ...(language === '' ? [] : [text(0, `@L${language}`)]),
    text(0, `@T${song.title}`),
    ...syllables.map(({ atTick, text: said }) => text(atTick, said)),
    // As long as the longest, so that it lies with the others where they are loaded.
    metaEvent(Math.max(...song.tracks.map((t) => endTick(t.events))), meta.endOfTrack),
  ]);
  const rest = song.tracks.map((track) => {
    const { events } = track;
    const rows: number[] = [];
    for (let i = 0; i < events.count; i++) if (!isMeta(events, i, meta.lyric)) rows.push(i);
    return rows.length === events.count ? track : withEvents(track, pickEvents(events, rows));
  });
  const at = hasMapTrack(song) || rest.length === 1 ? 1 : 0;
  const tracks = [...rest.slice(0, at), { id: wordsTrack, events: words }, ...rest.slice(at)];
  return {
    song: { ...song, tracks },
    notes: [
      `${syllables.length.toLocaleString('en')} syllable${syllables.length === 1 ? ' leaves' : 's leave'} as texts in a track of words.`,
    ],
  };
}

const textOf = (song: Song, bytes: Uint8Array): string => decodeText(bytes, song.encoding);

function syllablesOf(song: Song): Syllable[] {
  const columns = song.tracks.map((t) => t.events);
  const index = indexEvents(columns, (events, i) => isMeta(events, i, meta.lyric));
  const found: Syllable[] = [];
  let begins = '\\';
  for (let n = 0; n < index.count; n++) {
    const events = columns[index.track[n]!]!;
    const said = textOf(song, payloadOf(events, index.row[n]!));
    const text = said.replace(/[\r\n]+/g, '');
    if (text !== '') {
      const own = /^[\\/]/.test(text);
      found.push({ atTick: events.atTick[index.row[n]!]!, text: own ? text : begins + text });
      begins = '';
    }
    if (said.includes('\n')) begins = '\\';
    else if (said.includes('\r') && begins === '') begins = '/';
  }
  return found;
}
