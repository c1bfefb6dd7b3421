import { eventAt, isMeta, META, meta, payloadOf, type Events } from '../../smf/events.ts';
import { packEvents } from '../../smf/event-builder.ts';
import { decodeText } from '../../smf/text.ts';
import { encodeFor } from '../../smf/text-encode.ts';
import { shownText, withEvents, type Song } from '../../song/song.ts';
import type { Wanted } from '../settings.ts';

type Lengths = Pick<Wanted['form'], 'longestName' | 'longestMark'>;

/** Names that were cut are listed up to so many. */
const mostListed = 50;

const isName = (type: number): boolean => type === meta.trackName || type === meta.instrumentName;
const isMark = (type: number): boolean => type === meta.marker || type === meta.cuePoint;

/** The song with names and marks of so many letters at most; what was cut is told. */
export function lengthsFormed(
  song: Song,
  { longestName, longestMark }: Lengths,
): { song: Song; notes: string[] } {
  if (longestName === null && longestMark === null) return { song, notes: [] };
  const most = (type: number): number =>
    (isName(type) ? longestName : isMark(type) ? longestMark : null) ?? Infinity;
  const short: Cutting['short'] = new Map();
  // Names that are short enough stay as they are, wherever they come.
  const taken = new Set(longestName === null ? [] : shortNames(song, longestName));
  const tracks = song.tracks.map((track) => {
    const events = cutIn(track.events, song, most, { short, taken });
    return events === track.events ? track : withEvents(track, events);
  });
  return { song: short.size === 0 ? song : { ...song, tracks }, notes: cutWords(short) };
}

/** Names of tracks that need not be cut. */
const shortNames = (song: Song, longest: number): string[] =>
  song.tracks.flatMap(({ events }) =>
    Array.from({ length: events.count }, (_, row) => row)
      .filter((row) => isMeta(events, row, meta.trackName))
      .map((row) => decodeText(payloadOf(events, row), song.encoding))
      .filter((name) => Array.from(name).length <= longest),
  );

interface Cutting {
  /** What was cut, by its greatest length and what it said, and what it became. */
  readonly short: Map<string, { readonly was: string; readonly is: string }>;
  /** Names that tracks have. */
  readonly taken: Set<string>;
}

function cutIn(
  events: Events,
  song: Song,
  most: (type: number) => number,
  cutting: Cutting,
): Events {
  const anew = new Map<number, Uint8Array>();
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] !== META || most(events.data1[i]!) === Infinity) continue;
    const text = decodeText(payloadOf(events, i), song.encoding);
    const own = shortened(
      text,
      most(events.data1[i]!),
      events.data1[i] === meta.trackName,
      cutting,
    );
    if (own !== text) anew.set(i, encodeFor(own, song.encoding));
  }
  if (anew.size === 0) return events;
  return packEvents(
    Array.from({ length: events.count }, (_, i) => {
      const payload = anew.get(i);
      return payload ? { ...eventAt(events, i), payload } : eventAt(events, i);
    }),
  );
}

/** A text cut; two names of tracks that would be alike by that keep a number at their ends. */
function shortened(
  text: string,
  most: number,
  isTrack: boolean,
  { short, taken }: Cutting,
): string {
  const symbols = Array.from(text);
  if (symbols.length <= most) return text;
  const key = `${most} ${text}`;
  const had = short.get(key);
  if (had) return had.is;
  for (let n = 1; ; n++) {
    const behind = n === 1 ? '' : String(n);
    if (behind.length > most) return symbols.slice(0, most).join('');
    const own =
      symbols
        .slice(0, most - behind.length)
        .join('')
        .trimEnd() + behind;
    if (isTrack && taken.has(own)) continue;
    if (isTrack) taken.add(own);
    short.set(key, { was: text, is: own });
    return own;
  }
}

function cutWords(short: Cutting['short']): string[] {
  if (short.size === 0) return [];
  const listed = [...short.values()]
    .slice(0, mostListed)
    .map(({ was, is }) => `“${shownText(was)}” is “${is}”`);
  const more = short.size - listed.length;
  return [
    `Cut to the letters that are taken: ${listed.join(', ')}${more > 0 ? ` and ${more.toLocaleString('en')} more` : ''}.`,
  ];
}
