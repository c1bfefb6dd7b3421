import anyAscii from 'any-ascii';
import { META, meta, payloadOf, type Events } from '../../smf/events.ts';
import { packEvents } from '../../smf/event-builder.ts';
import { eventAt } from '../../smf/events.ts';
import { decodeAs, decodeText, encodeText, type TextEncodingName } from '../../smf/text.ts';
import { encodeAs } from '../../smf/text-encode.ts';
import { shownText, withEvents, type Song } from '../../song/song.ts';
import type { TextForm } from '../settings.ts';

/** Changes that are listed; a hostile file must not make slips endless. */
const mostListed = 500;

/** A text as it is written for a receiver. */
export interface Written {
  readonly bytes: Uint8Array;
  readonly text: string;
}

/**
 * A text with the letters that a receiver has: what it lacks is said with those it has, and what cannot be
 * said so is a question mark.
 */
export function writtenAs(text: string, form: Exclude<TextForm, 'as they are'>): Written {
  if (form === 'UTF-8') return { bytes: encodeText(text), text };
  const has = (symbol: string): boolean =>
    form === 'ASCII' ? symbol < '\u0080' : encodeAs(symbol, form) !== undefined;
  const said = Array.from(text.normalize('NFC'), (symbol) =>
    has(symbol) ? symbol : Array.from(anyAscii(symbol) || '?', (s) => (has(s) ? s : '?')).join(''),
  ).join('');
  return { bytes: form === 'ASCII' ? encodeText(said) : encodeAs(said, form)!, text: said };
}

/**
 * The song with its names and texts in other letters, each change of a letter told. Texts that read the
 * same there keep their bytes.
 */
export function lettersFormed(song: Song, form: TextForm): { song: Song; notes: string[] } {
  if (form === 'as they are') return { song, notes: [] };
  const changes = new Map<string, string>();
  const tracks = song.tracks.map((track) => {
    const events = rewritten(track.events, song.encoding, form, changes);
    return events === track.events ? track : withEvents(track, events);
  });
  const encoding: TextEncodingName = form === 'ASCII' ? 'UTF-8' : form;
  return { song: { ...song, tracks, encoding }, notes: changeWords(changes, form) };
}

function changeWords(changes: ReadonlyMap<string, string>, form: TextForm): string[] {
  if (changes.size === 0) return [];
  const listed = [...changes].slice(0, mostListed).map(([was, is]) => `“${was}” is “${is}”`);
  const more = changes.size - listed.length;
  const rest = more > 0 ? ` and ${more.toLocaleString('en')} more` : '';
  return [
    `Letters that ${form} lacks were written with those it has: ${listed.join(', ')}${rest}.`,
  ];
}

/** Ends of lines, tabulators and whatever else is no letter. */
// eslint-disable-next-line no-control-regex -- that is what they are
const controls = /[\u0000-\u001f\u007f]+/g;

const isText = (events: Events, i: number): boolean =>
  events.status[i] === META && events.data1[i]! >= 1 && events.data1[i]! <= 15;

function rewritten(
  events: Events,
  encoding: TextEncodingName,
  form: Exclude<TextForm, 'as they are'>,
  changes: Map<string, string>,
): Events {
  const anew = new Map<number, Uint8Array>();
  for (let i = 0; i < events.count; i++) {
    if (!isText(events, i)) continue;
    const bytes = payloadOf(events, i);
    // Devices show one line; in lyrics line ends say where lines of the song end (RP-017, from memory).
    const oneLine = form === 'ASCII' && events.data1[i] !== meta.lyric;
    if (bytes.every((b) => b < 0x80 && (!oneLine || (b >= 0x20 && b !== 0x7f)))) continue;
    const whole = decodeText(bytes, encoding);
    const isBroken = oneLine && whole.search(controls) !== -1;
    const text = isBroken ? whole.replace(controls, ' ').trim() : whole;
    if (form !== 'ASCII' && encodeAs(text, form) && decodeAs(bytes, form) === text) continue;
    const written = writtenAs(text, form);
    anew.set(i, written.bytes);
    if (written.text !== whole) changes.set(shownText(whole), shownText(written.text));
  }
  if (anew.size === 0) return events;
  return packEvents(
    Array.from({ length: events.count }, (_, i) => {
      const event = eventAt(events, i);
      const payload = anew.get(i);
      return payload ? { ...event, payload } : event;
    }),
  );
}
