import type { BringIn } from '#core/operations/tracks/bring-in/settings.ts';

/** What of a bring-in is about no one file: what comes beside the notes, what is kept, how it is laid onto tracks. */
export interface Choices {
  readonly take: BringIn['take'];
  readonly keep: BringIn['keep'];
  readonly how: BringIn['onto'][number]['how'];
}

/** What is proposed of every file: nothing that was chosen for another. */
export const usualChoices: Choices = {
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

/** Whether two say the same. @param a may hold more */
export const isSameChoice = (a: Choices, b: Choices): boolean =>
  a.keep === b.keep &&
  a.how === b.how &&
  (Object.keys(usualChoices.take) as (keyof Choices['take'])[]).every(
    (kind) => a.take[kind] === b.take[kind],
  );
