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
import { shredded } from './rules/shredded.ts';
import { severalChannels } from './rules/several-channels.ts';
import { sharedChannel } from './rules/shared-channel.ts';
import { bankAlone } from './rules/bank-alone.ts';
import { bendRange } from './rules/bend-range.ts';
import { constantLanes } from './rules/constant-lanes.ts';
import { gapBefore } from './rules/gap-before.ts';
import { keySwitches } from './rules/key-switches.ts';
import { lateEnd } from './rules/late-end.ts';
import { markersOffBar, metersInBar } from './rules/off-bar-lines.ts';
import { offTheGrid } from './rules/off-the-grid.ts';
import { strays } from './rules/strays.ts';
import { systemExclusive } from './rules/system-exclusive.ts';
import { contradictingName } from './rules/contradicting-name.ts';
import { kitKeys, outOfRange } from './rules/out-of-range.ts';
import { tooManyVoices } from './rules/too-many-voices.ts';
import { turnedDown } from './rules/turned-down.ts';
import { clickPart } from './rules/click-part.ts';
import { modeMessages } from './rules/mode-messages.ts';
import { setUpOnly } from './rules/set-up-only.ts';
import { unheardValues } from './rules/unheard-values.ts';
import { unnamed } from './rules/unnamed.ts';
import { untidyTiming } from './rules/untidy-timing.ts';
import { lookAtTrack } from './look-at-track.ts';
import { viewOf, type KeptLooks, type LookedSong } from './view.ts';

export type Rule = (song: LookedSong) => Noticed[];

interface Listed {
  /** Permanent: "left alone" is remembered by it. */
  readonly id: string;
  /** What several findings of the rule are called together. */
  readonly heading: string;
  /**
   * It looks at one track at a time, and at nothing of the others but what sounds on its channels. Else at
   * the song, by what is known of its tracks.
   */
  readonly ofTrack?: true;
  readonly look: Rule;
}

/** The rules, what is heard first before what is only untidy. One file a rule. */
const rules: readonly Listed[] = [
  {
    id: 'faulty-notes',
    heading: 'Notes that stick, overlap or are written twice',
    ofTrack: true,
    look: faultyNotes,
  },
  { id: 'turned-down', heading: 'Parts that are turned down', ofTrack: true, look: turnedDown },
  {
    id: 'left-hanging',
    heading: 'Bends or pedals left at the end',
    ofTrack: true,
    look: leftHanging,
  },
  {
    id: 'programs-inside',
    heading: 'Programs change inside the piece',
    ofTrack: true,
    look: programsInside,
  },
  {
    id: 'key-switches',
    heading: 'Notes that look like key switches',
    ofTrack: true,
    look: keySwitches,
  },
  { id: 'strays', heading: 'Notes far from the rest', look: strays },
  { id: 'click-part', heading: 'Clicks', ofTrack: true, look: clickPart },
  { id: 'doubled', heading: 'Parts that double each other', look: doubled },
  { id: 'one-velocity', heading: 'Parts with one velocity', ofTrack: true, look: oneVelocity },
  { id: 'off-the-grid', heading: 'Parts beside the grid', look: offTheGrid },
  {
    id: 'too-many-voices',
    heading: 'More voices than the instrument has',
    ofTrack: true,
    look: tooManyVoices,
  },
  {
    id: 'out-of-range',
    heading: 'Notes out of the instrument’s range',
    look: outOfRange,
  },
  { id: 'kit-keys', heading: 'Keys without a drum', ofTrack: true, look: kitKeys },
  {
    id: 'contradicting-name',
    heading: 'Parts called one thing that play another',
    look: contradictingName,
  },
  {
    id: 'foreign-controllers',
    heading: 'Settings of another instrument',
    ofTrack: true,
    look: foreignControllers,
  },
  {
    id: 'mode-messages',
    heading: 'Parts that set how an instrument listens',
    ofTrack: true,
    look: modeMessages,
  },
  { id: 'system-exclusive', heading: 'System exclusive', ofTrack: true, look: systemExclusive },
  { id: 'bank-alone', heading: 'Banks without a program', ofTrack: true, look: bankAlone },
  { id: 'bend-range', heading: 'Bends without their range', ofTrack: true, look: bendRange },
  { id: 'floods', heading: 'Floods of controllers', ofTrack: true, look: floods },
  {
    id: 'unheard-values',
    heading: 'Controller values nobody hears',
    ofTrack: true,
    look: unheardValues,
  },
  {
    id: 'idle-values',
    heading: 'Controller values that say nothing new',
    ofTrack: true,
    look: idleValues,
  },
  {
    id: 'constant-lanes',
    heading: 'Lanes that never leave the usual value',
    ofTrack: true,
    look: constantLanes,
  },
  { id: 'several-channels', heading: 'Parts of several channels', look: severalChannels },
  { id: 'shared-channel', heading: 'Parts that share a channel', look: sharedChannel },
  { id: 'shredded', heading: 'Tempo changes in too many steps', look: shredded },
  { id: 'untidy-timing', heading: 'Tempo events out of place', look: untidyTiming },
  { id: 'meters-in-bar', heading: 'Meters that change inside a bar', look: metersInBar },
  { id: 'markers-off-bar', heading: 'Markers beside the bar line', look: markersOffBar },
  { id: 'gap-before', heading: 'Rest before the music', look: gapBefore },
  { id: 'late-end', heading: 'An end far behind the music', look: lateEnd },
  { id: 'unnamed', heading: 'Parts without a name', ofTrack: true, look: unnamed },
  { id: 'empty-tracks', heading: 'Empty tracks', look: emptyTracks },
  { id: 'set-up-only', heading: 'Tracks that only set up', look: setUpOnly },
];

export const ruleIds: readonly string[] = rules.map((r) => r.id);

/** A title begins with a capital, also where it begins with "track 3". */
const sentence = (title: string): string => title.charAt(0).toUpperCase() + title.slice(1);

const trackRules = rules.filter((r) => r.ofTrack);

/**
 * Everything the rules notice in a song, in their order. Looks at tracks that are `kept` are used where all
 * they depend on is the same, and new ones are given to be kept.
 */
export function lookOver(song: Song, kept?: KeptLooks): Finding[] {
  const view = viewOf(song, (alone, t) => lookAtTrack(trackRules, alone, t), kept);
  const ofTracks = new Map<string, Noticed[]>(trackRules.map((r) => [r.id, []]));
  for (const { look } of view.tracks)
    for (const [id, noticed] of Object.entries(look.findings)) ofTracks.get(id)!.push(...noticed);
  return rules.flatMap(({ id, heading, look }) =>
    (ofTracks.get(id) ?? look(view)).map((n) => ({
      ...n,
      title: sentence(n.title),
      rule: id,
      heading,
      key: `${id} ${n.tracks.join(' ')}`.trim(),
    })),
  );
}
