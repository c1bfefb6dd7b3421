import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { create } from 'zustand';

/** Which tracks of a song are heard: views, not edits. Where some are heard alone, all others are silent. */
export interface HeardTracks {
  readonly silent: readonly string[];
  readonly alone: readonly string[];
}

/** How one song is listened to, beside what is so for all of them. */
interface HeardSong extends HeardTracks {
  /** Tracks that sound at the MIDI port, or all of them. */
  readonly out?: readonly string[] | 'all';
  /** A sound bank of its own, by its hash. */
  readonly bank?: string | undefined;
}

/** What happens where the bars of the scope end. */
export type AtScopeEnd = 'plays on' | 'comes round' | 'stops';

/** How songs are listened to: for all of them, and which tracks of each. Kept in this browser, and never sent. */
interface Hearing {
  /** How fast, in percent of what is written. */
  readonly percent: number;
  readonly metronome: boolean;
  readonly countIn: boolean;
  readonly atEnd: AtScopeEnd;
  /** The sound bank of songs that have none of their own, by its hash; undefined for the sounds that come along. */
  readonly bank: string | undefined;
  /** Where it is, in bars, in minutes and seconds, or in timecode. */
  readonly placeAs: PlaceAs;
  readonly songs: Readonly<Record<string, HeardSong>>;
}

export const placesAs = ['bars', 'time', 'timecode'] as const;
export type PlaceAs = (typeof placesAs)[number];

const place = 'hearing';
const forAll = 'hearing-all';
/** Songs of which it is kept, the last ones. */
const mostSongs = 100;
export const slowest = 25;
export const fastest = 400;

const usual: Hearing = {
  percent: 100,
  metronome: false,
  countIn: false,
  atEnd: 'plays on',
  bank: undefined,
  placeAs: 'time',
  songs: {},
};

function read(name: string): object | undefined {
  try {
    const said: unknown = JSON.parse(localStorage.getItem(name) ?? '{}');
    return typeof said === 'object' && said !== null ? said : undefined;
  } catch {
    return undefined;
  }
}

function write(name: string, value: object): void {
  try {
    localStorage.setItem(name, JSON.stringify(value));
  } catch {
    // A browser that keeps nothing has it in this window only.
  }
}

export const useHearing = create<Hearing>(() => {
  const { bank, placeAs } = (read(forAll) ?? {}) as Partial<Hearing>;
  return {
    ...usual,
    ...(typeof bank === 'string' ? { bank } : {}),
    ...(placesAs.some((p) => p === placeAs) ? { placeAs: placeAs! } : {}),
    songs: (read(place) ?? {}) as Hearing['songs'],
  };
});

useHearing.subscribe(({ bank, placeAs }, before) => {
  if (bank !== before.bank || placeAs !== before.placeAs) write(forAll, { bank, placeAs });
});

const all: HeardSong = { silent: [], alone: [] };
const heardTracksOf = (songs: Hearing['songs'], song: string): HeardSong => songs[song] ?? all;

/** Which tracks of a song sound at the port. */
export const useSentOut = (song: string): readonly string[] | 'all' =>
  useHearing((s) => heardTracksOf(s.songs, song).out ?? 'all');

/** The bank that a song has of its own, and the one that it is heard with. */
export const useBankOf = (song: string): { own: string | undefined; heard: string | undefined } => {
  const own = useHearing((s) => heardTracksOf(s.songs, song).bank);
  const forAll = useHearing((s) => s.bank);
  return { own, heard: own ?? forAll };
};

/** Has tracks of a song sound at the port, or a bank of its own. */
export const hearSong = (song: string, how: Pick<HeardSong, 'out' | 'bank'>): void =>
  keep(song, { ...heardTracksOf(useHearing.getState().songs, song), ...how });

/** A bank is gone: nothing is heard with it any more. */
export function forgetBank(bank: string): void {
  const { songs, bank: forAll } = useHearing.getState();
  for (const [song, how] of Object.entries(songs))
    if (how.bank === bank) hearSong(song, { bank: undefined });
  if (forAll === bank) useHearing.setState({ bank: undefined });
}

/** The same of the tracks that a song has: those that were removed since count no more, and do when they are back. */
export function useHeardTracks({ id, tracks }: Pick<SongView, 'id' | 'tracks'>): HeardTracks {
  const heard = useHearing((s) => heardTracksOf(s.songs, id));
  return useMemo(() => {
    const there = new Set(tracks.map((t) => t.id));
    const among = (list: readonly string[]): string[] => list.filter((t) => there.has(t));
    return { silent: among(heard.silent), alone: among(heard.alone) };
  }, [heard, tracks]);
}

/** How a track is heard beside the others. */
export const howHeard = (
  { silent, alone }: HeardTracks,
  track: string,
): 'heard' | 'silent' | 'alone' =>
  alone.includes(track) ? 'alone' : alone.length > 0 || silent.includes(track) ? 'silent' : 'heard';

/** Whether a track is heard. */
export const isHeard = (tracks: HeardTracks, track: string): boolean =>
  howHeard(tracks, track) !== 'silent';

/** Silences tracks, or has them heard alone; where all of them are already, takes that back. */
export function toggleHeard(
  song: string,
  what: keyof HeardTracks,
  tracks: readonly string[],
): void {
  const now = heardTracksOf(useHearing.getState().songs, song);
  const on = tracks.every((t) => now[what].includes(t));
  const others = now[what].filter((t) => !tracks.includes(t));
  keep(song, { ...now, [what]: on ? others : [...others, ...tracks] });
}

/** Has tracks heard as all others again. */
export function hearAgain(song: string, tracks: readonly string[]): void {
  const now = heardTracksOf(useHearing.getState().songs, song);
  const without = (list: readonly string[]): string[] => list.filter((t) => !tracks.includes(t));
  keep(song, { ...now, silent: without(now.silent), alone: without(now.alone) });
}

function keep(song: string, next: HeardSong): void {
  const { songs } = useHearing.getState();
  const { [song]: _, ...rest } = songs;
  const kept = Object.fromEntries(
    [...Object.entries(rest), [song, next] as const].slice(-mostSongs),
  );
  useHearing.setState({ songs: kept });
  write(place, kept);
}
