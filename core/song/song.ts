import { META, meta, isMeta, payloadOf, type Events } from '../smf/events.ts';
import type { InstrumentDefinition } from '../instruments/definition.ts';
import type { Division } from '../smf/division.ts';
import type { RiffWrapper } from '../smf/riff.ts';
import type { AlienChunk } from '../smf/smf.ts';
import { channelsIn } from '../units/channel-bits.ts';
import { fromHex } from '../units/hex.ts';
import { factsOf, type Factual, type TrackFacts } from './track-facts.ts';
import { cutText, decodeText, type TextEncodingName } from '../smf/text.ts';

/** One line of music: one MTrk chunk of a format 1 file. Never changed; an edit makes a new one under the same id. */
export interface Track {
  /** `t1`, `t2` …: given once, in file order, and never again within a song. */
  readonly id: string;
  readonly events: Events;
  /** The chunk's very bytes, as long as no step touched the track. */
  readonly body?: Uint8Array;
  /** Keys of the lanes that are parked: kept among the events, but not played and not sent. See `lanes.ts`. */
  readonly parked?: readonly string[];
  /**
   * The definition that was given to it, the song's own copy. It says what plays it as long as the program
   * that chooses it stands: see `played-by.ts`.
   */
  readonly instrument?: InstrumentDefinition;
  /** What was worked out of these events before, see `track-facts.ts`: then nobody need look at them for it. */
  readonly facts?: TrackFacts;
}

/**
 * The track with other events: all else it carries stays, but for the bytes and facts that were those of
 * its events.
 */
export function withEvents(track: Track, events: Events): Track {
  const { body, facts, ...rest } = track;
  return { ...rest, events };
}

/** The track with just these lanes parked; its events, and the bytes they came in, stay. */
export function withParked(track: Track, keys: readonly string[]): Track {
  const { parked, ...rest } = track;
  return keys.length > 0 ? { ...rest, parked: keys } : rest;
}

/** The track with this definition of what plays it, or none. */
export function withInstrument(
  track: Track,
  definition: InstrumentDefinition | null | undefined,
): Track {
  const { instrument, ...rest } = track;
  return definition ? { ...rest, instrument: definition } : rest;
}

/** A piece of work. Nothing mutates a song; tracks that a step did not touch are the same objects before and after. */
export interface Song {
  readonly title: string;
  /** Format of the file it came in. */
  readonly format: 0 | 1 | 2;
  readonly division: Division;
  readonly headerExtra: Uint8Array;
  readonly tracks: readonly Track[];
  readonly alienChunks: readonly AlienChunk[];
  readonly wrapper?: RiffWrapper;
  /** How texts that are not UTF-8 are read. */
  readonly encoding: TextEncodingName;
  /** Number of the next track id. */
  readonly nextTrack: number;
}

export const trackId = (number: number): string => `t${number}`;

/** Places of a song's tracks by id, counted once: a song may have 65,535 of them. */
const placesOfSong = new WeakMap<Song, ReadonlyMap<string, number>>();

export function trackPlaces(song: Song): ReadonlyMap<string, number> {
  const known = placesOfSong.get(song);
  if (known) return known;
  const places = new Map(song.tracks.map((t, place) => [t.id, place]));
  placesOfSong.set(song, places);
  return places;
}

/**
 * The song with some of its tracks as they are now, by their ids, each in its place: as dear as there are
 * tracks to replace.
 */
export function withReplaced(song: Song, tracks: ReadonlyMap<string, Track>): Song {
  const places = trackPlaces(song);
  const now = song.tracks.slice();
  for (const [id, track] of tracks) {
    const place = places.get(id);
    if (place !== undefined) now[place] = track;
  }
  const made = { ...song, tracks: now };
  placesOfSong.set(made, places);
  return made;
}

export const findTrack = (song: Song, id: string): Track | undefined =>
  song.tracks[trackPlaces(song).get(id) ?? -1];

/**
 * Index of the event that names the track: its first track name that is not about one channel of several.
 * -1 if there is none.
 */
export function nameIndex(events: Events): number {
  return findMeta(events, meta.trackName);
}

function findMeta(events: Events, type: number): number {
  for (let i = 0; i < events.count; i++) if (isMeta(events, i, type)) return i;
  return -1;
}

/** Longest name that is shown; files hold texts of any length, which stay as they are. */
const longestShown = 200;

/** A text on one line, as much of it as is shown. */
export const shownText = (text: string): string =>
  cutText(text.replace(/\p{Cc}+/gu, ' ').trim(), longestShown);

/** Names by the facts they were read from; a song is under one encoding nearly always. */
const namesOfFacts = new WeakMap<TrackFacts, { encoding: TextEncodingName; name: string }>();

/** The track's name as people read it; its instrument name where it has no other; '' where it has neither. */
export function trackName(track: Factual, encoding: TextEncodingName): string {
  const facts = factsOf(track);
  const known = namesOfFacts.get(facts);
  if (known?.encoding === encoding) return known.name;
  const name = nameIn(facts, encoding);
  namesOfFacts.set(facts, { encoding, name });
  return name;
}

function nameIn({ trackName, instrumentName }: TrackFacts, encoding: TextEncodingName): string {
  for (const said of [trackName, instrumentName]) {
    const text = said ? shownText(decodeText(fromHex(said), encoding)) : '';
    if (text !== '') return text;
  }
  return '';
}

/** Whether the track sends anything over a channel. */
export function playsChannel({ status, count }: Events): boolean {
  for (let i = 0; i < count; i++) if (status[i]! < 0xf0) return true;
  return false;
}

/** Channels the track sends on, as stored, in ascending order. */
export function channelsOf({ status, count }: Events): number[] {
  let used = 0;
  for (let i = 0; i < count; i++) if (status[i]! < 0xf0) used |= 1 << (status[i]! & 0x0f);
  return channelsIn(used);
}

/** Whether the first track holds only the song's own facts (name, tempo, meters, markers …) and no music. */
export const hasMapTrack = (song: Song): boolean =>
  song.tracks.length > 1 && factsOf(song.tracks[0]!).channels === 0;

/** All texts of a file's meta events, for telling their encoding. */
export function textPayloads(tracks: readonly { readonly events: Events }[]): Uint8Array[] {
  const texts: Uint8Array[] = [];
  for (const { events } of tracks) {
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] === META && events.data1[i]! >= 1 && events.data1[i]! <= 9)
        texts.push(payloadOf(events, i));
    }
  }
  return texts;
}

/** What a track is called in reports and lists: its name, or its place. */
export function trackLabel(song: Song, track: Track): string {
  return labelOf(trackName(track, song.encoding), trackPlaces(song).get(track.id) ?? -1);
}

/** The same of a track by its name and its place, from 0. */
export const labelOf = (name: string, place: number): string => name || `track ${place + 1}`;
