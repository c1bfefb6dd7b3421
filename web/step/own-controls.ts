/** Operations with controls of their own elsewhere. */
export const ownControls: ReadonlySet<string> = new Set([
  'song.name',
  'recipe.run',
  'tracks.bring-in',
  'tracks.rename',
  'tracks.reorder',
  'tracks.remove',
]);
