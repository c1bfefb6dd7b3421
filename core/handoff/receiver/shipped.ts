import type { z } from 'zod';
import { limitsSchema, receiverSchema, type Receiver } from './receiver.ts';

/** A receiver that comes with the product. Its id is permanent. */
export interface ShippedReceiver extends Receiver {
  readonly id: string;
}

/** What only this program reads, and devices. */
const nothingOwn = { sections: false, specific: false, chunks: false } as const;
/** What a player of notes has no use for. */
const noMap = { tempo: 'none', meters: false, keys: false, timecode: false } as const;
const noMarks: Pick<z.input<typeof limitsSchema>, 'marks' | 'sections'> = {
  marks: [],
  sections: false,
};
const noWords = { lyrics: false, words: false } as const;
/** Controllers of General MIDI level 1 (MIDI Association; from memory): modulation, data entry, volume, pan, expression, damper, RPN. */
const generalMidi = [1, 6, 7, 10, 11, 38, 64, 91, 93, 100, 101];

const shipped: readonly (z.input<typeof receiverSchema> & { id: string })[] = [
  {
    id: 'collaborator',
    name: 'A collaborator with Amber Satchel',
    about: 'Opens the song as it is kept: with its history, what is parked, and marks of its own.',
    packed: 'satchel with the song',
  },
  {
    id: 'sequencer',
    name: 'Full sequencer',
    about: 'Takes tracks, the tempo map, meters and markers; knows no sections and no cue points.',
    takes: { ...nothingOwn, marks: ['markers'], letters: 'UTF-8', frames: false },
  },
  {
    id: 'cue-points',
    name: 'Sequencer that shows cue points',
    about: 'As a full sequencer, but only cue points become places in its song.',
    takes: { ...nothingOwn, marks: ['cue points'], letters: 'UTF-8', frames: false },
  },
  {
    id: 'no-map',
    name: 'Program without tempo and meter',
    about:
      'Takes notes and what shapes them, and plays at the tempo it is set to. A file for each track.',
    takes: {
      ...nothingOwn,
      ...noMap,
      ...noMarks,
      ...noWords,
      letters: 'UTF-8',
      frames: false,
      ports: false,
    },
    divide: 'tracks',
  },
  {
    id: 'keyboard',
    name: 'Keyboard or sound module',
    about: 'One track for sixteen channels, sounds of General MIDI, file names of eight letters.',
    takes: {
      ...nothingOwn,
      ...noMarks,
      formats: [0],
      resolutions: [96, 480],
      frames: false,
      ports: false,
      drums: 'on channel 10',
      timecode: false,
      lyrics: false,
      letters: 'ASCII',
      nameLetters: 16,
      programs: 'General MIDI',
      controllers: 'only',
      controllerList: generalMidi,
      keySwitches: false,
      fileNames: '8.3',
    },
  },
  {
    id: 'notation',
    name: 'Somebody who reads notes',
    about:
      'A copy on the grid that sixteenths and triplets share, without key switches, with full names.',
    takes: {
      ...nothingOwn,
      formats: [1],
      frames: false,
      marks: ['markers'],
      letters: 'UTF-8',
      controllers: 'only',
      controllerList: [64],
      bend: false,
      pressure: false,
      exclusive: false,
      ports: false,
      timecode: false,
      keySwitches: false,
    },
    recipe: {
      name: 'On the grid',
      about: '',
      // A 48th of a whole note: three make a sixteenth, two a sixteenth of a triplet.
      steps: [
        {
          operation: 'notes.quantise',
          settings: { grid: '1/32', feel: 'triplet' },
          who: 'pitched',
        },
      ],
    },
  },
  {
    id: 'picture',
    name: 'Picture editor',
    about: 'Only places and timecode, as fine as frames need; no note is needed.',
    takes: {
      ...nothingOwn,
      formats: [1],
      notes: false,
      resolutions: [960],
      frames: false,
      keys: false,
      marks: ['markers'],
      lyrics: false,
      words: false,
      letters: 'UTF-8',
      programs: 'none',
      controllers: 'none',
      bend: false,
      pressure: false,
      exclusive: false,
      ports: false,
      instrumentNames: false,
    },
    divide: 'map',
  },
  {
    id: 'groove-pack',
    name: 'Groove pack',
    about: 'A file for each section, drums on channel 10, names short enough for any device.',
    takes: {
      ...nothingOwn,
      ...noMarks,
      ...noWords,
      formats: [0],
      frames: false,
      ports: false,
      drums: 'on channel 10',
      tempo: 'one',
      keys: false,
      timecode: false,
      letters: 'ASCII',
      exclusive: false,
      fileNames: '16',
    },
    divide: 'sections',
  },
  {
    id: 'lyrics',
    name: 'Lyric display',
    about: 'Shows the words in karaoke order and plays with the sounds of General MIDI.',
    takes: {
      ...nothingOwn,
      ...noMarks,
      formats: ['karaoke'],
      frames: false,
      ports: false,
      letters: 'Latin-1',
      timecode: false,
      programs: 'General MIDI',
      ending: '.kar',
    },
  },
  {
    id: 'no-program',
    name: 'Somebody without any program',
    about: 'A satchel with a slip that opens anywhere; the MIDI files are for whoever helps.',
    takes: { ...nothingOwn, letters: 'UTF-8', frames: false },
    packed: 'satchel',
  },
];

/** Those that come along, the most complete first. */
export const shippedReceivers: readonly ShippedReceiver[] = shipped.map(({ id, ...receiver }) => ({
  id,
  ...receiverSchema.parse(receiver),
}));
