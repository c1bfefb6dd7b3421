import { defaultFilter } from 'cmdk';

/** Something that can be taken from the list: what it is found by, and what taking it does. */
export interface Choice {
  readonly key: string;
  /** What is looked in; `title` alone is shown. */
  readonly words: string;
  readonly title: string;
  readonly aside?: string | undefined;
  readonly take: () => void;
}

export interface ChoiceGroup {
  readonly heading: string;
  readonly list: readonly Choice[];
}

/** Below this the letters typed lie scattered over the words: nobody means that. */
const leastScore = 0.02;
/** From here on a word begins with what was typed, or nearly so. */
const sureScore = 0.5;

export interface Found {
  readonly groups: readonly ChoiceGroup[];
  /** Whether what comes first is surely what was meant; where nothing is typed it is. */
  readonly sure: boolean;
}

/**
 * What answers to typed text, the best first within its group and the group with the best first; all of it
 * where nothing is typed. Groups in which nothing answers are left out.
 */
export function foundIn(groups: readonly ChoiceGroup[], typed: string): Found {
  if (typed === '') return { groups: groups.filter(({ list }) => list.length > 0), sure: true };
  const found = groups
    .map(({ heading, list }) => {
      const scored = list
        .map((choice) => ({ choice, score: defaultFilter(choice.words, typed) }))
        .filter(({ score }) => score >= leastScore)
        .sort((a, b) => b.score - a.score);
      return { heading, list: scored.map((s) => s.choice), best: scored[0]?.score ?? 0 };
    })
    .filter(({ list }) => list.length > 0)
    .sort((a, b) => b.best - a.best);
  return {
    groups: found.map(({ heading, list }) => ({ heading, list })),
    sure: (found[0]?.best ?? 0) >= sureScore,
  };
}
