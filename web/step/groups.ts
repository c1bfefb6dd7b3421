/** Groups of operations in the order in which they are offered, as people call them. */
export const groups = {
  notes: 'Notes',
  velocity: 'Velocity',
  chords: 'Chords',
  controllers: 'Controllers',
  events: 'Kinds of event',
  bars: 'Bars',
  tracks: 'Tracks',
  timing: 'Timing',
  song: 'Song',
} as const;
