/** Stages of the work, by the address of their view within a song, each with what it is for in one line. */
export const stages = {
  in: 'What the file holds, part by part. More files come into this song from here.',
  look: 'What each track holds, and what is wrong with it: each finding is settled by a press.',
  notes: 'Single notes by hand: drag, draw, stretch, and their velocities beneath.',
  lanes: 'Controllers, bend and pressure over time: draw, erase, thin, park.',
  events: 'Every event of the file as a row: narrow the list, edit, delete.',
  timing: 'Tempo, meters, keys and markers: the map that all bars stand on.',
  harmony: 'The chords that sound, told bar by bar: write a chord line, voice, strum.',
  arrange: 'Bars and sections: order, repeat, cut, insert, and everything moves along.',
  shelf: 'Clips to keep and to use again: out of any song, into any song.',
  out: 'What the receiver can take: choose for whom, and make the files with a slip.',
  history: 'Every step that was taken. Go back to any of them at once.',
} as const;
export type Stage = keyof typeof stages;
export const stageNames = Object.keys(stages) as Stage[];

/** The stage that an address is of; undefined where no song is open. */
export function stageOf(path: string): Stage | undefined {
  const [, song, view = ''] = /^\/songs\/([^/]+)(?:\/([^/]*))?\/?$/.exec(path) ?? [];
  if (!song) return undefined;
  return view === '' ? 'look' : stageNames.find((stage) => stage === view);
}
