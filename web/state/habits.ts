import { create } from 'zustand';
import type { BringIn } from '#core/operations/tracks/bring-in/settings.ts';

/** How the last file came in: offered again for the next. */
export interface Habits {
  readonly take: BringIn['take'];
  readonly keep: BringIn['keep'];
  readonly how: BringIn['onto'][number]['how'];
}

export const noHabits: Habits = {
  take: {
    controllers: true,
    mix: true,
    programs: true,
    exclusive: true,
    lyrics: true,
    texts: true,
  },
  keep: 'bars',
  how: 'merge',
};

const place = 'bring-in';

/** What this browser remembers; anything that is no habit counts as none. */
function remembered(): Habits {
  try {
    const said = JSON.parse(localStorage.getItem(place) ?? '{}') as Partial<Habits>;
    return {
      take: Object.fromEntries(
        Object.keys(noHabits.take).map((kind) => [
          kind,
          (said.take as Record<string, unknown> | undefined)?.[kind] !== false,
        ]),
      ) as Habits['take'],
      keep: said.keep === 'seconds' ? 'seconds' : 'bars',
      how: said.how === 'replace' || said.how === 'where empty' ? said.how : 'merge',
    };
  } catch {
    return noHabits;
  }
}

export const useHabits = create<{ habits: Habits }>(() => ({ habits: remembered() }));

export function keepHabits({ take, keep, how }: Habits): void {
  const habits = { take, keep, how };
  useHabits.setState({ habits });
  try {
    localStorage.setItem(place, JSON.stringify(habits));
  } catch {
    // A browser that keeps nothing proposes what is usual.
  }
}
