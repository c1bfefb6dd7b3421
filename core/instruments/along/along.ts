import { clefs, definitionSchema, type InstrumentDefinition } from '../definition.ts';

/** Where the values come from. */
export const alongSource =
  'Lowest keys and transpositions as in the tables of music21 10.5.0 (instrument.py) where it has them; highest and comfortable keys from manuals of orchestration, from memory.';

type Row = readonly [
  name: string,
  program: number,
  playable: readonly [number, number],
  comfortable: readonly [number, number],
  voices: number | null,
  transposition: number,
  clef: (typeof clefs)[number],
  uses: keyof typeof uses,
];

/** Controllers that players of a kind use (common practice). */
const uses = {
  breath: { 1: 'Modulation', 2: 'Breath', 7: 'Volume', 10: 'Pan', 11: 'Expression' },
  bow: { 1: 'Modulation', 7: 'Volume', 10: 'Pan', 11: 'Expression' },
  struck: { 7: 'Volume', 10: 'Pan' },
  rings: { 7: 'Volume', 10: 'Pan', 64: 'Damper' },
  keys: { 7: 'Volume', 10: 'Pan', 64: 'Damper', 66: 'Sostenuto', 67: 'Soft' },
  organ: { 1: 'Modulation', 7: 'Volume', 10: 'Pan', 11: 'Expression' },
} as const;

/** Keys that sound; programs of General MIDI, from 1. */
// prettier-ignore
const rows: readonly Row[] = [
  ['Piccolo', 73, [74, 108], [79, 103], 1, 12, 'treble, octave up', 'breath'],
  ['Flute', 74, [60, 98], [62, 91], 1, 0, 'treble', 'breath'],
  ['Alto flute', 74, [55, 91], [57, 84], 1, -5, 'treble', 'breath'],
  ['Soprano recorder', 75, [72, 98], [72, 93], 1, 12, 'treble, octave up', 'breath'],
  ['Alto recorder', 75, [65, 91], [65, 86], 1, 0, 'treble', 'breath'],
  ['Oboe', 69, [58, 93], [60, 86], 1, 0, 'treble', 'breath'],
  ['English horn', 70, [52, 84], [54, 79], 1, -7, 'treble', 'breath'],
  ['Clarinet in B♭', 72, [50, 94], [50, 86], 1, -2, 'treble', 'breath'],
  ['Bass clarinet', 72, [37, 77], [38, 70], 1, -14, 'treble', 'breath'],
  ['Bassoon', 71, [34, 75], [34, 67], 1, 0, 'bass', 'breath'],
  ['Contrabassoon', 71, [22, 53], [24, 46], 1, -12, 'bass, octave down', 'breath'],
  ['Soprano saxophone', 65, [56, 87], [58, 84], 1, -2, 'treble', 'breath'],
  ['Alto saxophone', 66, [49, 81], [51, 78], 1, -9, 'treble', 'breath'],
  ['Tenor saxophone', 67, [44, 76], [46, 73], 1, -14, 'treble', 'breath'],
  ['Baritone saxophone', 68, [36, 69], [38, 66], 1, -21, 'treble', 'breath'],
  ['Horn in F', 61, [34, 77], [41, 72], 1, -7, 'treble', 'breath'],
  ['Trumpet in B♭', 57, [52, 84], [55, 79], 1, -2, 'treble', 'breath'],
  ['Flugelhorn', 57, [52, 82], [53, 75], 1, -2, 'treble', 'breath'],
  ['Trombone', 58, [40, 77], [40, 67], 1, 0, 'bass', 'breath'],
  ['Bass trombone', 58, [34, 67], [36, 62], 1, 0, 'bass', 'breath'],
  ['Euphonium', 59, [34, 72], [40, 65], 1, 0, 'bass', 'breath'],
  ['Tuba', 59, [26, 65], [29, 57], 1, 0, 'bass', 'breath'],
  ['Violin', 41, [55, 105], [55, 93], 2, 0, 'treble', 'bow'],
  ['Viola', 42, [48, 93], [48, 84], 2, 0, 'alto', 'bow'],
  ['Cello', 43, [36, 84], [36, 72], 2, 0, 'bass', 'bow'],
  ['Double bass', 44, [28, 67], [28, 60], 2, -12, 'bass, octave down', 'bow'],
  ['Violins', 49, [55, 103], [55, 93], null, 0, 'treble', 'bow'],
  ['Harp', 47, [23, 104], [31, 96], null, 0, 'grand staff', 'struck'],
  ['Classical guitar', 25, [40, 84], [40, 79], 6, -12, 'treble, octave down', 'struck'],
  ['Electric guitar', 28, [40, 88], [40, 84], 6, -12, 'treble, octave down', 'struck'],
  ['Bass guitar', 34, [28, 67], [28, 60], 4, -12, 'bass, octave down', 'struck'],
  ['Five-string bass guitar', 34, [23, 67], [23, 60], 5, -12, 'bass, octave down', 'struck'],
  ['Mandolin', 26, [55, 91], [55, 86], 4, 0, 'treble', 'struck'],
  ['Ukulele', 25, [60, 81], [60, 79], 4, 0, 'treble', 'struck'],
  ['Piano', 1, [21, 108], [28, 103], null, 0, 'grand staff', 'keys'],
  ['Electric piano', 5, [28, 100], [28, 100], null, 0, 'grand staff', 'keys'],
  ['Harpsichord', 7, [29, 89], [29, 89], null, 0, 'grand staff', 'struck'],
  ['Celesta', 9, [60, 108], [60, 108], null, 12, 'grand staff', 'rings'],
  ['Pipe organ', 20, [36, 96], [36, 96], null, 0, 'grand staff', 'organ'],
  ['Accordion', 22, [53, 93], [53, 89], null, 0, 'treble', 'organ'],
  ['Timpani', 48, [36, 60], [40, 57], 2, 0, 'bass', 'struck'],
  ['Glockenspiel', 10, [79, 108], [79, 108], 4, 24, 'treble', 'struck'],
  ['Xylophone', 14, [65, 108], [65, 108], 4, 12, 'treble, octave up', 'struck'],
  ['Marimba', 13, [36, 96], [45, 96], 4, 0, 'grand staff', 'struck'],
  ['Vibraphone', 12, [53, 89], [53, 89], 4, 0, 'treble', 'rings'],
  ['Tubular bells', 15, [60, 77], [60, 77], 2, 0, 'treble', 'rings'],
  ['Soprano voice', 54, [58, 84], [60, 79], 1, 0, 'treble', 'breath'],
  ['Alto voice', 54, [53, 77], [55, 74], 1, 0, 'treble', 'breath'],
  ['Tenor voice', 54, [47, 72], [48, 67], 1, -12, 'treble, octave down', 'breath'],
  ['Bass voice', 54, [38, 66], [40, 62], 1, 0, 'bass', 'breath'],
];

/** An instrument that comes along: nobody changes it, but a copy of it. */
export interface AlongInstrument {
  readonly id: string;
  readonly definition: InstrumentDefinition;
}

const idOf = (name: string): string =>
  `along-${name
    .replace('♭', ' flat')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')}`;

const pitched = rows.map(
  ([name, program, [low, high], [easyLow, easyHigh], voices, transposition, clef, kind]) => ({
    name,
    program,
    playable: { lowest: low, highest: high },
    comfortable: { lowest: easyLow, highest: easyHigh },
    voices,
    transposition,
    clef,
    controllers: Object.entries(uses[kind]).map(([number, called]) => ({
      number: Number(number),
      name: called,
    })),
    source: alongSource,
  }),
);

const kit = {
  name: 'Drum kit',
  drums: true,
  playable: { lowest: 35, highest: 81 },
  clef: 'percussion',
  source: 'General MIDI level 1, percussion key map: keys 35 to 81 (RP-003).',
};

export const alongInstruments: readonly AlongInstrument[] = [...pitched, kit].map((given) => ({
  id: idOf(given.name),
  definition: definitionSchema.parse(given),
}));
