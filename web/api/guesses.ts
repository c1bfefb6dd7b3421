import { useQuery } from '@tanstack/react-query';
import { call } from './client.ts';

/** What may play the tracks of a song, as it is in a revision. */
export const useGuesses = (id: string, revision: number) =>
  useQuery({
    queryKey: ['song', id, 'guesses', revision],
    queryFn: ({ signal }) => call('listGuesses', { params: { id }, signal }),
    staleTime: Infinity,
    gcTime: 60_000,
  });
