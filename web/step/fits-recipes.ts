import type { OperationView } from '#contracts/steps.ts';

/** Steps that name what only one song has: its title, tracks by their ids, its running order. */
const ofOneSong: ReadonlySet<string> = new Set([
  'song.name',
  'tracks.reorder',
  'notes.to-track',
  'bars.order',
]);

/** Whether a recipe can hold a step of this operation: it fits any song, and needs no bars of one. */
export const fitsRecipes = ({ id, byHand, scope }: OperationView): boolean =>
  !byHand && scope !== 'bars' && !ofOneSong.has(id);
