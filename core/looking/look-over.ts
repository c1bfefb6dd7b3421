import type { Song } from '../song/song.ts';
import type { Finding, Noticed } from './finding.ts';
import { doubled } from './rules/doubled.ts';
import { emptyTracks } from './rules/empty-tracks.ts';
import { faultyNotes } from './rules/faulty-notes.ts';
import { floods } from './rules/floods.ts';
import { foreignControllers } from './rules/foreign-controllers.ts';
import { idleValues } from './rules/idle-values.ts';
import { leftHanging } from './rules/left-hanging.ts';
import { oneVelocity } from './rules/one-velocity.ts';
import { programsInside } from './rules/programs-inside.ts';
import { severalChannels } from './rules/several-channels.ts';
import { unnamed } from './rules/unnamed.ts';
import { viewOf, type LookedSong } from './view.ts';

export type Rule = (song: LookedSong) => Noticed[];

/** The rules, what is heard first before what is only untidy. One file a rule; a rule's name is permanent. */
const rules: Readonly<Record<string, Rule>> = {
  'faulty-notes': faultyNotes,
  'left-hanging': leftHanging,
  'programs-inside': programsInside,
  doubled,
  'one-velocity': oneVelocity,
  'foreign-controllers': foreignControllers,
  floods,
  'idle-values': idleValues,
  'several-channels': severalChannels,
  unnamed,
  'empty-tracks': emptyTracks,
};

/** Everything the rules notice in a song, in their order. */
export function lookOver(song: Song): Finding[] {
  const view = viewOf(song);
  return Object.entries(rules).flatMap(([rule, look]) => look(view).map((noticed) => ({ ...noticed, rule, key: `${rule} ${noticed.tracks.join(' ')}`.trim() })));
}
