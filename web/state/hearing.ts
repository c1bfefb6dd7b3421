import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { create } from 'zustand';

/** Which tracks of a song are heard: views, not edits. Where some are heard alone, all others are silent. */
export interface HeardTracks {
  readonly silent: readonly string[];
  readonly alone: readonly string[];
}

/** How songs are listened to: for all of them, and which tracks of each. Kept in this browser, and never sent. */
interface Hearing {
  /** How fast, in percent of what is written. */
  readonly percent: number;
  readonly metronome: boolean;
  readonly countIn: boolean;
  /** The bars of the scope again and again. */
  readonly loops: boolean;
  readonly songs: Readonly<Record<string, HeardTracks>>;
}

const place = 'hearing';
/** Songs of which it is kept, the last ones. */
const mostSongs = 100;
export const slowest = 25;
export const fastest = 400;

const usual: Hearing = { percent: 100, metronome: false, countIn: false, loops: false, songs: {} };

function kept(): Hearing {
  try {
    const songs: unknown = JSON.parse(localStorage.getItem(place) ?? '{}');
    return typeof songs === 'object' && songs !== null
      ? { ...usual, songs: songs as Hearing['songs'] }
      : usual;
  } catch {
    return usual;
  }
}

export const useHearing = create<Hearing>(() => kept());

const all: HeardTracks = { silent: [], alone: [] };
const heardTracksOf = (songs: Hearing['songs'], song: string): HeardTracks => songs[song] ?? all;

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
  const { silent, alone } = heardTracksOf(useHearing.getState().songs, song);
  const without = (list: readonly string[]): string[] => list.filter((t) => !tracks.includes(t));
  keep(song, { silent: without(silent), alone: without(alone) });
}

function keep(song: string, next: HeardTracks): void {
  const { songs } = useHearing.getState();
  const { [song]: _, ...rest } = songs;
  const kept = Object.fromEntries(
    [...Object.entries(rest), [song, next] as const].slice(-mostSongs),
  );
  useHearing.setState({ songs: kept });
  try {
    localStorage.setItem(place, JSON.stringify(kept));
  } catch {
    // A browser that keeps nothing has it in this window only.
  }
}
