import { create } from 'zustand';

/** A list of places that was chosen for a song before its timing was open. */
interface PendingList {
  readonly song: string;
  readonly name: string;
  readonly bytes: Uint8Array;
}

interface Pending {
  readonly list: PendingList | undefined;
  wait(list: PendingList | undefined): void;
}

export const usePendingList = create<Pending>((set) => ({
  list: undefined,
  wait: (list) => set({ list }),
}));
