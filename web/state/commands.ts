import { useEffect } from 'react';
import { create } from 'zustand';
import type { KeyCommandId } from '#contracts/key-commands.ts';

/** Something the view that is open can do, for the palette; `key` is what does it without. */
export interface Command {
  readonly title: string;
  readonly key?: KeyCommandId;
  readonly run: () => void;
}

interface CommandState {
  readonly groups: ReadonlyMap<string, readonly Command[]>;
  /** All but steps, which are many. */
  readonly commands: readonly Command[];
  offer(group: string, commands: readonly Command[]): void;
}

export const useCommands = create<CommandState>((set) => ({
  groups: new Map(),
  commands: [],
  offer: (group, commands) =>
    set((state) => {
      const groups = new Map(state.groups);
      if (commands.length === 0) groups.delete(group);
      else groups.set(group, commands);
      const here = [...groups].filter(([name]) => name !== 'steps');
      return { groups, commands: here.flatMap(([, its]) => its) };
    }),
}));

/** Offers commands while the calling view is open. `commands` must be stable between renders that mean the same. */
export function useOffer(group: string, commands: readonly Command[]): void {
  const offer = useCommands((s) => s.offer);
  useEffect(() => {
    offer(group, commands);
    return () => offer(group, []);
  }, [group, commands, offer]);
}
