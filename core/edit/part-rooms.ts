import { percussionChannel } from '../instruments/general-midi.ts';
import { trackName, type Song, type Track } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';
import { meet } from './heard.ts';
import { placeFrom, takenOn, type Stands, type Taken } from './part-notes.ts';

/** The notes of a key that begin on one tick, with whose they are: however many double each other, one place. */
interface Standing {
  readonly from: number;
  /** Where the last of them ends. */
  to: number;
  its: {
    readonly to: number;
    readonly track: string;
    readonly ports: readonly number[];
  }[];
}

/**
 * What has to be known of a song that parts are put into: which names are taken, which channels, and what sounds
 * on them. Gone through once: parts that come one after the other are noted as they come.
 */
interface Rooms {
  readonly names: Set<string>;
  /** Of names that are taken the last number behind it that was tried. */
  readonly numbers: Map<string, number>;
  /** By channel, how many tracks of the same ports send on it. */
  readonly uses: readonly Map<string, { readonly ports: readonly number[]; count: number }>[];
  /** By channel and key, in the order in which they begin; gone through where a channel is asked for. */
  readonly notes: (Map<number, Standing[]> | undefined)[];
}

const rooms = new WeakMap<Song, Rooms>();

/** A song that was made of another by putting a track into it, or another in the place of one. */
interface Descent {
  readonly from: Song;
  readonly is: Track;
  readonly was: Track | undefined;
}

const descents = new WeakMap<Song, Descent>();

/**
 * Says of what a song was made, so that it need not be gone through anew. Nothing is done until it is asked for
 * something: it may be let go again.
 */
export const madeOf = (from: Song, to: Song, is: Track, was?: Track): void =>
  void descents.set(to, { from, is, was });

function roomsOf(song: Song): Rooms {
  const known = rooms.get(song) ?? inherited(song);
  if (known) return known;
  const made: Rooms = {
    names: new Set(song.tracks.map((t) => trackName(t, song.encoding))),
    numbers: new Map(),
    uses: Array.from({ length: 16 }, () => new Map()),
    notes: [],
  };
  for (const track of song.tracks) use(made, track, 1);
  rooms.set(song, made);
  return made;
}

/** What is known of the song that it was made of, brought up to date: from then on it is known of this one. */
function inherited(song: Song): Rooms | undefined {
  const descent = descents.get(song);
  if (!descent) return undefined;
  descents.delete(song);
  const { from, is, was } = descent;
  const known = rooms.get(from) ?? inherited(from);
  if (!known) return undefined;
  rooms.delete(from);
  rooms.set(song, known);
  if (was) use(known, was, -1);
  use(known, is, 1);
  if (!was) known.names.add(trackName(is, song.encoding));
  known.notes.forEach((found, channel) => {
    if (!found) return;
    if (was) for (const note of takenOn(was, channel)) leave(found, note, was.id);
    stand(found, is, channel);
  });
  return known;
}

function use({ uses }: Rooms, track: Track, by: 1 | -1): void {
  const { channels, ports } = factsOf(track);
  uses.forEach((its, channel) => {
    if (!((channels >> channel) & 1)) return;
    const had = its.get(ports.join(' '));
    if (had) had.count += by;
    else its.set(ports.join(' '), { ports, count: by });
  });
}

function notesOn(song: Song, channel: number): Map<number, Standing[]> {
  const { notes } = roomsOf(song);
  const known = notes[channel];
  if (known) return known;
  const found = new Map<number, Standing[]>();
  for (const track of song.tracks) stand(found, track, channel);
  notes[channel] = found;
  return found;
}

function stand(found: Map<number, Standing[]>, track: Track, channel: number): void {
  const { channels, ports } = factsOf(track);
  if (!((channels >> channel) & 1)) return;
  for (const { key, from, to } of takenOn(track, channel)) {
    const places = found.get(key) ?? [];
    found.set(key, places);
    const at = placeFrom(places, from);
    const one = { to, track: track.id, ports };
    const there = places[at];
    if (there?.from !== from) places.splice(at, 0, { from, to, its: [one] });
    else {
      there.its.push(one);
      there.to = Math.max(there.to, to);
    }
  }
}

function leave(found: Map<number, Standing[]>, { key, from }: Taken, track: string): void {
  const places = found.get(key) ?? [];
  const at = placeFrom(places, from);
  const there = places[at];
  if (there?.from !== from) return;
  there.its = there.its.filter((n) => n.track !== track);
  if (there.its.length === 0) places.splice(at, 1);
  else there.to = lastEnd(there.its);
}

const lastEnd = (its: readonly { readonly to: number }[]): number =>
  its.reduce((last, n) => Math.max(last, n.to), 0);

/** What stands on a channel where a track of these ports is heard: by key, in the order in which it begins. */
export function standingOn(
  song: Song,
  { ports }: { readonly ports: readonly number[] },
  channel: number,
): (key: number) => readonly Stands[] {
  const found = notesOn(song, channel);
  const all = [...roomsOf(song).uses[channel]!.values()].every((u) => meet(u.ports, ports));
  return (key) => {
    const its = found.get(key) ?? [];
    if (all) return its;
    return its.flatMap(({ from, its: those }) => {
      const heard = those.filter((n) => meet(n.ports, ports));
      return heard.length > 0 ? [{ from, to: lastEnd(heard) }] : [];
    });
  };
}

/**
 * A channel on which nothing is sent that a track of these ports would hear; undefined where all are taken. It is what
 * `freeChannel` tells of a song that stays as it is.
 */
export function openChannel(
  song: Song,
  { ports }: { readonly ports: readonly number[] },
): number | undefined {
  const { uses } = roomsOf(song);
  const channel = uses.findIndex(
    (its, c) =>
      c !== percussionChannel &&
      ![...its.values()].some((u) => u.count > 0 && meet(u.ports, ports)),
  );
  return channel === -1 ? undefined : channel;
}

/** A name that no track has: this one, else with a number behind it. */
export function openName(song: Song, name: string): string {
  const { names, numbers } = roomsOf(song);
  if (!names.has(name)) return name;
  let n = numbers.get(name) ?? 2;
  while (names.has(`${name} ${n}`)) n++;
  numbers.set(name, n);
  return `${name} ${n}`;
}
