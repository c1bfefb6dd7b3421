import { useQuery } from '@tanstack/react-query';
import type { SongView } from '#contracts/songs.ts';
import { outlineOf, theDesk } from '../desk/the-desk.ts';

/** Sections of a song as it is now, told from what repeats: worked out beside the page, once for a revision. */
export const useRepeats = (song: SongView, wanted: boolean) =>
  useQuery({
    queryKey: ['repeats', song.id, song.revision],
    queryFn: () => theDesk().repeats(outlineOf(song)),
    staleTime: Infinity,
    gcTime: 60_000,
    retry: false,
    enabled: wanted,
  });
