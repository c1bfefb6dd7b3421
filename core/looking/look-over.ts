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
import { sharedChannel } from './rules/shared-channel.ts';
import { unnamed } from './rules/unnamed.ts';
import { untidyTiming } from './rules/untidy-timing.ts';
import { viewOf, type LookedSong } from './view.ts';

export type Rule = (song: LookedSong) => Noticed[];

interface Listed {
  /** Permanent: "left alone" is remembered by it. */
  readonly id: string;
  /** What several findings of the rule are called together. */
  readonly heading: string;
  readonly look: Rule;
}

/** The rules, what is heard first before what is only untidy. One file a rule. */
const rules: readonly Listed[] = [
  { id: 'faulty-notes', heading: 'Notes that stick, overlap or are written twice', look: faultyNotes },
  { id: 'left-hanging', heading: 'Bends or pedals left at the end', look: leftHanging },
  { id: 'programs-inside', heading: 'Programs change inside the piece', look: programsInside },
  { id: 'doubled', heading: 'Parts that double each other', look: doubled },
  { id: 'one-velocity', heading: 'Parts with one velocity', look: oneVelocity },
  { id: 'foreign-controllers', heading: 'Settings of another instrument', look: foreignControllers },
  { id: 'floods', heading: 'Floods of controllers', look: floods },
  { id: 'idle-values', heading: 'Controller values that say nothing new', look: idleValues },
  { id: 'several-channels', heading: 'Tracks of several channels', look: severalChannels },
  { id: 'shared-channel', heading: 'Parts that share a channel', look: sharedChannel },
  { id: 'untidy-timing', heading: 'Tempo events out of place', look: untidyTiming },
  { id: 'unnamed', heading: 'Parts without a name', look: unnamed },
  { id: 'empty-tracks', heading: 'Empty tracks', look: emptyTracks },
];

/** A title begins with a capital, also where it begins with "track 3". */
const sentence = (title: string): string => title.charAt(0).toUpperCase() + title.slice(1);

/** Everything the rules notice in a song, in their order. */
export function lookOver(song: Song): Finding[] {
  const view = viewOf(song);
  return rules.flatMap(({ id, heading, look }) => look(view).map((noticed) => ({ ...noticed, title: sentence(noticed.title), rule: id, heading, key: `${id} ${noticed.tracks.join(' ')}`.trim() })));
}
