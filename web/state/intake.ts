import { create } from 'zustand';
import type { QueryClient } from '@tanstack/react-query';
import type { ApiError } from '#contracts/errors.ts';
import { problemOf } from '../api/client.ts';
import { sendFiles } from '../api/upload.ts';

/** One file on its way in. */
export interface Arrival {
  readonly key: number;
  readonly file: File;
  readonly name: string;
  readonly state: 'waiting' | 'sending' | 'reading' | 'in' | 'refused';
  /** Part sent, 0–1. */
  readonly sent: number;
  readonly songs: readonly string[];
  readonly problems: readonly ApiError[];
}

interface IntakeState {
  readonly arrivals: readonly Arrival[];
  take(files: readonly File[], client: QueryClient): Promise<readonly Arrival[]>;
  /** Nothing more is told of a file that was not taken. */
  leave(key: number): void;
  clear(): void;
}

let nextKey = 1;

/** Files on their way in, one after another, whatever view is open. */
export const useIntake = create<IntakeState>((set, get) => {
  const update = (key: number, change: Partial<Arrival>): void =>
    set(({ arrivals }) => ({
      arrivals: arrivals.map((a) => (a.key === key ? { ...a, ...change } : a)),
    }));
  return {
    arrivals: [],
    leave: (key) => set(({ arrivals }) => ({ arrivals: arrivals.filter((a) => a.key !== key) })),
    clear: () =>
      set(({ arrivals }) => ({
        arrivals: arrivals.filter(
          (a) => a.state === 'waiting' || a.state === 'sending' || a.state === 'reading',
        ),
      })),
    take: async (files, client) => {
      const batch = files.map((file) => ({
        file,
        arrival: {
          key: nextKey++,
          file,
          name: file.name,
          state: 'waiting',
          sent: 0,
          songs: [],
          problems: [],
        } as Arrival,
      }));
      set(({ arrivals }) => ({
        arrivals: [...arrivals.filter((a) => a.state !== 'in'), ...batch.map((b) => b.arrival)],
      }));
      for (const { file, arrival } of batch) {
        update(arrival.key, { state: 'sending' });
        try {
          const { songs, problems } = await sendFiles('bringIn', [file], {
            progress: (sent) =>
              update(arrival.key, { sent, state: sent === 1 ? 'reading' : 'sending' }),
          });
          update(arrival.key, { state: 'in', songs: songs.map((s) => s.id), problems });
        } catch (error) {
          update(arrival.key, { state: 'refused', problems: [problemOf(error)] });
        }
        await client.invalidateQueries({ queryKey: ['songs'] });
      }
      return get().arrivals.filter((a) => batch.some((b) => b.arrival.key === a.key));
    },
  };
});
