import { programNames } from '../instruments/general-midi.ts';
import { drumsClass } from './roles.ts';
import type { Features } from './features.ts';
import type { Said } from './said.ts';

/** At most so many are told. */
const most = 4;

/** Why a family may play a part, in a musician's words; what speaks against it among them. */
export function reasons(family: number, f: Features, said: Said): string[] {
  const { named, onDrums, program } = said;
  const isNamed = named && (named.drums ? drumsClass : named.program >> 3) === family;
  return [
    isNamed && `its name says “${named.fragment}”`,
    family === drumsClass && onDrums && 'it is on channel 10, where drums are',
    program !== undefined && program >> 3 === family && `its program is ${programNames[program]!}`,
    ...(family === drumsClass ? ofDrums(f) : ofPitch(family, f)),
  ]
    .filter((why) => typeof why === 'string')
    .slice(0, most);
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;

const ofDrums = (f: Features): (string | false)[] => [
  f.kickSnareHat > 0.3 &&
    `${percent(f.kickSnareHat)} of its notes are keys of kick, snare and hi-hat`,
  f.sameLength > 0.8 && 'nearly all its notes are of one length',
  f.repeated > 0.5 && 'it strikes the same key again and again',
];

/** Families that play one note at a time: brass, reeds, pipes. */
const singly: ReadonlySet<number> = new Set([7, 8, 9]);
/** Families whose notes are held: organ, strings, ensemble, pads. */
const held: ReadonlySet<number> = new Set([2, 5, 6, 11]);
/** Families that are struck or plucked. */
const struck: ReadonlySet<number> = new Set([0, 1, 3, 13, 14]);

const ofPitch = (family: number, f: Features): (string | false)[] => [
  family === 4 && f.isLowest && 'it is the lowest of the parts',
  family === 4 && f.mean < 48 && 'it lies in the range of a bass',
  family === 4 && f.alone > 0.7 && 'one note at a time',
  family === 0 && f.damper && 'it uses the damper pedal',
  [0, 2, 3, 6, 11].includes(family) &&
    f.chordsOfThree > 0.25 &&
    `${percent(f.chordsOfThree)} of its strokes are chords of three notes and more`,
  (singly.has(family) || family === 10) && f.alone > 0.7 && 'a line of one note at a time',
  singly.has(family) && f.chordsOfThree > 0.25 && 'but it plays chords, as a section might',
  held.has(family) && f.length >= 1 && f.joined >= 0.85 && 'long notes that join',
  struck.has(family) && f.short > 0.6 && 'short notes',
  family === 3 && f.bends && 'it bends its notes',
  family === 10 && f.bends && 'it bends its notes',
  f.mean > 80 && [1, 9].includes(family) && 'it lies high',
  (singly.has(family) || family === 10) && f.steps > 0.5 && 'it goes by steps',
];
