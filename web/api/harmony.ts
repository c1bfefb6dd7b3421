import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { shownChords } from '#core/harmony/shown-chords.ts';
import { chordIn } from '#core/timing/chord-texts.ts';
import { usePreferences } from '../state/preferences.ts';
import { call } from './client.ts';

/*
 * Their keys are none of those of the song: a step waits for the song to be looked up again, and not for its
 * harmony.
 */

/** Chords that are told from what sounds in a song, as it is now; nothing is asked where `wanted` is false. */
export const useToldChords = ({ id, revision }: SongView, wanted = true) =>
  useQuery({
    queryKey: ['chords', id, revision],
    queryFn: ({ signal }) => call('listChords', { params: { id }, query: {}, signal }),
    staleTime: Infinity,
    gcTime: 60_000,
    enabled: wanted,
  });

export const useToldKeys = ({ id, revision }: SongView, wanted = true) =>
  useQuery({
    queryKey: ['keys', id, revision],
    queryFn: ({ signal }) => call('listKeys', { params: { id }, signal }),
    staleTime: Infinity,
    gcTime: 60_000,
    enabled: wanted,
  });

/** A chord as it is shown over bars. */
export interface ShownChord {
  readonly atTick: number;
  readonly text: string;
}

/** In songs of more notes nothing is told of chords until somebody goes to the view of harmony. */
const mostNotes = 150_000;
const none: readonly ShownChord[] = [];

/** Whether chords are to be seen of a song: they have their room before they are there. */
export function useChordRoom({ timing, notes }: SongView): boolean {
  const wanted = usePreferences((p) => p.chords);
  return wanted && (timing.chords.length > 0 || (notes > 0 && notes <= mostNotes));
}

/** The chord line, and where it says nothing what is told from what sounds; nothing where chords are not to be seen. */
export function useShownChords(song: SongView): readonly ShownChord[] {
  const wanted = usePreferences((p) => p.chords);
  const written = song.timing.chords;
  const told = useToldChords(song, wanted && song.notes > 0 && song.notes <= mostNotes).data;
  return useMemo(() => {
    if (!wanted) return none;
    const line = written.map(({ atTick, text }) => ({ atTick, text: chordIn(text) ?? text }));
    return shownChords(line, told?.chords ?? []);
  }, [wanted, written, told]);
}
