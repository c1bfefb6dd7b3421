import { useCallback, useMemo } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { keyOfPoint, scaleBits } from '#core/harmony/find-keys.ts';
import { shownChord } from '#core/harmony/shown.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { useToldChords, useToldKeys } from '../../api/harmony.ts';
import { voicingAt } from '../../harmony/voicings.ts';
import { usePreferences } from '../../state/preferences.ts';

/** In songs of more notes nothing is told of keys here. */
const mostNotes = 150_000;
/** So many chosen notes may be one voicing. */
const mostInVoicing = 24;

/** What is known of chords and keys around notes: which are outside of the key, and what chosen ones are called. */
export function useKeysAround(song: SongView, tracks: readonly TrackView[], table: NoteTable) {
  const wanted = usePreferences((p) => p.chords) && song.notes > 0 && song.notes <= mostNotes;
  const keys = useToldKeys(song, wanted).data?.keys;
  const told = useToldChords(song, wanted).data?.chords;
  const outside = useMemo(() => {
    if (!keys || keys.length === 0) return undefined;
    const regions = keys.map((k) => ({ from: k.fromTick, bits: scaleBits(keyOfPoint(k)) }));
    const drums = tracks.map((t) => t.channel === 10);
    return (track: number, tick: number, key: number): boolean => {
      if (drums[track]) return false;
      const region = regions.findLast((r) => r.from <= tick) ?? regions[0]!;
      return (region.bits & (1 << (key % 12))) === 0;
    };
  }, [keys, tracks]);
  /** Chosen notes as a voicing: its name, and its degrees from the lowest note up. */
  const voicing = useCallback(
    (chosen: ReadonlySet<number>): string | undefined => {
      if (chosen.size < 2 || chosen.size > mostInVoicing) return undefined;
      const notes = [...chosen];
      const tick = Math.min(...notes.map((n) => table.from[n]!));
      const { name, degrees } = voicingAt(
        notes.map((n) => table.key[n]!),
        tick,
        { told: told ?? [], keys: keys ?? [] },
      );
      return name && `${shownChord(name)}  ${shownChord(degrees.join(' '))}`;
    },
    [table, told, keys],
  );
  return { outside, voicing };
}
