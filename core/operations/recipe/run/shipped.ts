import type { Recipe } from './recipe.ts';

/** A recipe that comes with the product. Its id is permanent. */
export interface ShippedRecipe extends Recipe {
  readonly id: string;
}

/**
 * Sound shaping and sends of one instrument (MIDI 1.0: 70–79, 84, 91–95), NRPN and the data entry that goes
 * with them.
 */
const ofOneInstrument = [70, 71, 72, 73, 74, 75, 76, 77, 78, 79, 84, 91, 92, 93, 94, 95, 98, 99];

export const shippedRecipes: readonly ShippedRecipe[] = [
  {
    id: 'notes-only',
    name: 'Notes only',
    about:
      'Strips every part to its notes, mends what sticks or overlaps, and drops tracks that are then empty. Names, tempo, meters and markers stay.',
    steps: [
      { operation: 'notes.repair', settings: {}, who: 'all' },
      { operation: 'events.keep-notes', settings: {}, who: 'all' },
      { operation: 'tracks.remove-empty', settings: {}, who: 'all' },
    ],
  },
  {
    id: 'another-instrument',
    name: 'Ready for another instrument',
    about:
      'Takes out what was set for the sound it was made on: programs, banks, filters, envelopes, sends, system exclusive. Volume, pan, expression and pedals stay; bends and pedals are brought to rest at the end.',
    steps: [
      {
        operation: 'events.remove',
        settings: {
          kinds: ['programs', 'banks', 'system exclusive'],
          controllers: ofOneInstrument,
        },
        who: 'all',
      },
      { operation: 'controllers.settle', settings: {}, who: 'all' },
    ],
  },
  {
    id: 'flat-velocities',
    name: 'Wake up flat velocities',
    about:
      'Gives parts of one velocity some life: beats of the meter louder, what lies between softer, and a little chance. The same every time it is run.',
    steps: [
      { operation: 'velocity.accent', settings: { first: 12, beats: 4, between: -6 }, who: 'all' },
      {
        operation: 'velocity.randomise',
        settings: { spread: 8, shape: 'bell', seed: 1 },
        who: 'all',
      },
    ],
  },
  {
    id: 'lighten',
    name: 'Lighten for an old keyboard',
    about:
      'Takes out what nobody hears and thins what is left to one step, so that slow instruments keep up.',
    steps: [
      { operation: 'controllers.tidy', settings: {}, who: 'all' },
      { operation: 'controllers.thin', settings: { error: 1 }, who: 'all' },
      { operation: 'events.remove', settings: { kinds: ['system exclusive'] }, who: 'all' },
    ],
  },
  {
    id: 'clean-desk',
    name: 'Clean desk before a handoff',
    about:
      'Repairs notes and tidies the tempo map. Removes repeated and unheard values and empty tracks. Aligns markers with bar lines and makes track names unique.',
    steps: [
      { operation: 'notes.repair', settings: {}, who: 'all' },
      { operation: 'controllers.tidy', settings: { silent: false }, who: 'all' },
      { operation: 'controllers.thin', settings: { error: 0 }, who: 'all' },
      { operation: 'timing.tidy', settings: {}, who: 'all' },
      { operation: 'timing.snap', settings: {}, who: 'all' },
      { operation: 'tracks.remove-empty', settings: {}, who: 'all' },
      { operation: 'tracks.unique', settings: {}, who: 'all' },
    ],
  },
  {
    id: 'loosen',
    name: 'Loosen what is too exact',
    about:
      'Moves pitched parts a few ticks about the grid and lets loudness breathe; the drums keep the time.',
    steps: [
      { operation: 'notes.humanise', settings: { spread: 8, seed: 3 }, who: 'pitched' },
      {
        operation: 'velocity.randomise',
        settings: { spread: 10, shape: 'bell', seed: 4 },
        who: 'all',
      },
    ],
  },
];
