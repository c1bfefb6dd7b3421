import { pickEvents } from '../../smf/event-builder.ts';
import { META, meta, payloadOf, SYSEX, SYSEX_PACKET, type Events } from '../../smf/events.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { isChordEvent, meantType } from '../../smf/own-events.ts';
import {
  hasMapTrack,
  nameIndex,
  trackLabel,
  withEvents,
  type Song,
  type Track,
} from '../../song/song.ts';
import { withTrackName } from '../../song/track-name.ts';
import { factsOf } from '../../song/track-facts.ts';
import { toHex } from '../../units/hex.ts';
import { channelNumber } from '../../units/units.ts';
import { outlineOf } from '../outline.ts';

/** Id of a first track that is made for the map where the song has none. */
export const madeMap = 'map';

/** Whether a row of a track leaves at all. */
export type Leaves = (events: Events, row: number) => boolean;

/** What belongs to the song and not to one part: it goes with every part of it. */
const ofTheSong: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.keySignature,
  meta.smpteOffset,
  meta.marker,
  meta.cuePoint,
  meta.copyright,
]);

/** Two marks alike on one tick may end two sections. */
const isMark = (type: number): boolean => type === meta.marker || type === meta.cuePoint;

/**
 * Some tracks of a song as a song that sounds as they do in it. What other tracks say on their channels
 * goes along, in the order in which it is heard, as do system exclusive messages, which set a whole
 * instrument up; and the map, wherever it stands: in the first track where that holds nothing else, else in
 * one that is made for it.
 */
export function gathered(
  song: Song,
  chosen: ReadonlySet<string>,
  leaves: Leaves,
): { song: Song; notes: string[] } {
  const mapTrack = hasMapTrack(song) ? song.tracks[0]! : undefined;
  const stays = (t: Track): boolean => chosen.has(t.id) || t === mapTrack;
  if (song.tracks.every(stays)) return { song, notes: [] };
  const { tracks, notes } = withTheirChannels(song, stays, leaves);
  const map = mapOfOthers(song, stays, mapTrack);
  const whole = tracks.map((track) => {
    const said = map.get(track === tracks[0] && mapTrack ? madeMap : track.id);
    return said ? withEvents(track, mergeEvents([track.events, ...said])) : track;
  });
  const made = mapTrack ? undefined : map.get(madeMap);
  if (chosen.size === 0) return { song: { ...song, tracks: [named(song, whole[0], made)] }, notes };
  if (!made && whole.length > 0) return { song: { ...song, tracks: whole }, notes };
  return {
    song: { ...song, tracks: [{ id: madeMap, events: mergeEvents(made ?? []) }, ...whole] },
    notes,
  };
}

/** The map alone, which is called as the song where it has no name. */
function named(song: Song, map: Track | undefined, made: readonly Events[] = []): Track {
  const track = map ?? { id: madeMap, events: mergeEvents(made) };
  const called = nameIndex(track.events) !== -1 || song.title === '';
  return called ? track : withTrackName(track, song.title, song.encoding);
}

/** Rows of a track as events of their own, which end with the last of them. */
function part(events: Events, rows: number[]): Events {
  rows.push(events.count - 1);
  const picked = pickEvents(events, rows);
  picked.atTick[picked.count - 1] = picked.atTick[picked.count - 2] ?? 0;
  return picked;
}

/** What holds until another of its kind: of several on one tick the last, in the order of the tracks. */
const holding: ReadonlySet<number> = new Set([meta.tempo, meta.timeSignature, meta.keySignature]);

/**
 * What other tracks say of the whole song, by the track that is to say it: the map, or the last before it
 * that stays and says such things itself, so that of several on one tick the same one counts. What they
 * say alike is said once.
 */
function mapOfOthers(
  song: Song,
  stays: (track: Track) => boolean,
  mapTrack: Track | undefined,
): Map<string, Events[]> {
  const found = new Map<string, Events[]>();
  const said = new Set<string>();
  const last = new Map<string, string>();
  let home = madeMap;
  for (const track of song.tracks) {
    if (!factsOf(track).timing && !outlineOf(track.events).copyright) continue;
    const { events } = track;
    const staying = stays(track);
    const rows: number[] = [];
    for (let i = 0; i < events.count - 1; i++) {
      if (!isOfTheSong(events, i)) continue;
      const [kind, payload] = [
        `${events.atTick[i]} ${events.data1[i]}`,
        toHex(payloadOf(events, i)),
      ];
      const again = holding.has(events.data1[i]!)
        ? last.get(kind) === payload
        : said.has(`${kind} ${payload}`) && !isMark(events.data1[i]!);
      last.set(kind, payload);
      said.add(`${kind} ${payload}`);
      if (!staying && !again) rows.push(i);
    }
    if (staying && track !== mapTrack) home = track.id;
    if (rows.length > 0) found.set(home, [...(found.get(home) ?? []), part(events, rows)]);
  }
  return found;
}

const isOfTheSong = (events: Events, i: number): boolean =>
  events.status[i] === META && (ofTheSong.has(meantType(events, i)) || isChordEvent(events, i));

/** What another track says beside its notes, on channels of a port that a part plays on, or to the whole port. */
interface Spoken {
  readonly events: Events;
  readonly channels: ReadonlySet<number>;
  readonly count: number;
}

function withTheirChannels(
  song: Song,
  stays: (track: Track) => boolean,
  leaves: Leaves,
): { tracks: Track[]; notes: string[] } {
  const places = new Map<number, number[]>();
  for (const [place, track] of song.tracks.entries())
    if (stays(track)) {
      const port = outlineOf(track.events).port;
      places.set(port, [...(places.get(port) ?? []), place]);
    }
  const before = new Map<number, Events[]>();
  const behind = new Map<number, Events[]>();
  const notes: string[] = [];
  for (const [place, track] of song.tracks.entries()) {
    if (stays(track)) continue;
    const there = places.get(outlineOf(track.events).port) ?? [];
    const channels = there.reduce((bits, p) => bits | factsOf(song.tracks[p]!).channels, 0);
    const speaks = outlineOf(track.events).exclusive || (factsOf(track).channels & channels) !== 0;
    if (channels === 0 || !speaks) continue;
    const spoken = spokenBy(track.events, channels, leaves);
    if (!spoken) continue;
    // In the order in which they are heard: before the next track that stays, or behind the last.
    const next = there.find((p) => p > place);
    const into = next === undefined ? behind : before;
    const home = next ?? there.at(-1)!;
    into.set(home, [...(into.get(home) ?? []), spoken.events]);
    notes.push(alongWords(trackLabel(song, track), spoken));
  }
  const tracks = song.tracks.flatMap((track, place) => {
    if (!stays(track)) return [];
    const [first, last] = [before.get(place) ?? [], behind.get(place) ?? []];
    if (first.length + last.length === 0) return [track];
    return [withEvents(track, mergeEvents([...first, track.events, ...last]))];
  });
  return { tracks, notes };
}

function spokenBy(events: Events, channels: number, leaves: Leaves): Spoken | undefined {
  const rows: number[] = [];
  const on = new Set<number>();
  for (let i = 0; i < events.count - 1; i++) {
    const s = events.status[i]!;
    const exclusive = s === SYSEX || s === SYSEX_PACKET;
    const says = s >= 0xb0 && s < 0xf0 && (channels & (1 << (s & 15))) !== 0;
    if ((!exclusive && !says) || !leaves(events, i)) continue;
    if (says) on.add(s & 15);
    rows.push(i);
  }
  const count = rows.length;
  return count === 0 ? undefined : { events: part(events, rows), channels: on, count };
}

function alongWords(name: string, { channels, count }: Spoken): string {
  const on = [...channels].sort((a, b) => a - b).map(channelNumber);
  const events = count === 1 ? 'One event' : `${count.toLocaleString('en')} events`;
  const where =
    on.length === 0
      ? 'for the whole instrument'
      : `on channel${on.length === 1 ? '' : 's'} ${on.join(', ')}`;
  return `${events} of ${name} ${where} went along: what leaves would sound otherwise without ${count === 1 ? 'it' : 'them'}.`;
}
