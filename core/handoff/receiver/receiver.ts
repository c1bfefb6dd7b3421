import { z } from 'zod';
import { plainName } from '../../edit/plain-text.ts';
import { recipeSchema } from '../../operations/recipe/run/recipe.ts';
import { finest } from '../../timing/resolution.ts';
import type { Shown } from '../../units/shown.ts';
import { divisions, fileNameStyles } from '../settings.ts';

const yes = (title: string, description?: string) =>
  z
    .boolean()
    .default(true)
    .meta({ title, ...(description ? { description } : {}) });
const most = (highest: number) => z.int().min(1).max(highest).nullable().default(null);

export const openedFormats = [0, 1, 'karaoke'] as const;
export type OpenedFormat = (typeof openedFormats)[number];
export const markKinds = ['markers', 'cue points', 'texts'] as const;
export const letterSets = ['any', 'UTF-8', 'Latin-1', 'Shift-JIS', 'ASCII'] as const;
export type Letters = (typeof letterSets)[number];

const controller = z.int().min(0).max(119);

/**
 * What the other side can take. Each limit is about files that are opened there: what is outside of it is not
 * there afterwards, or is there changed. Left out, there is no limit.
 */
export const limitsSchema = z
  .strictObject({
    formats: z
      .array(z.union([z.literal(0), z.literal(1), z.literal('karaoke')]))
      .min(1)
      .max(3)
      .default([1, 0])
      .meta({
        title: 'Formats that are opened',
        description:
          'The one it likes best first. "karaoke": format 1 with the words in karaoke order.',
      }),
    resolutions: z.array(z.int().min(1).max(finest)).max(30).default([]).meta({
      title: 'Ticks a quarter note',
      description: 'Those that are opened; an empty list opens any.',
    }),
    finest: most(finest).meta({
      title: 'Most ticks a quarter note',
      description: 'Places that are finer fall on its nearest tick. Null: any.',
    }),
    frames: yes('Files whose ticks are parts of frames'),
    tracks: most(65_535).meta({
      title: 'Most tracks',
      description: 'Of a file with more, the rest is not read. Null: any number.',
    }),
    channels: z.int().min(1).max(16).default(16).meta({
      title: 'Most channels',
      description: 'Channels above are not heard.',
    }),
    ports: yes(
      'Ports',
      'More than sixteen channels by ports; without them all are those of one port.',
    ),
    notes: yes('Notes'),
    drums: z.enum(['on any channel', 'on channel 10']).default('on any channel').meta({
      title: 'Drums',
    }),
    tempo: z.enum(['map', 'one', 'none']).default('map').meta({
      title: 'Tempo',
      description: 'A map, the first tempo alone, or none: then it plays at a tempo of its own.',
    }),
    temposASecond: z.number().min(0.1).max(1000).nullable().default(null).meta({
      title: 'Most tempos a second',
      description: 'One that follows sooner is passed over. Null: any number.',
    }),
    meters: yes('Meters'),
    keys: yes('Key signatures'),
    marks: z
      .array(z.enum(markKinds))
      .max(3)
      .default([...markKinds])
      .meta({
        title: 'Marks that are shown',
        description: 'The kind it likes best first; an empty list shows none.',
      }),
    markLetters: most(1000).meta({ title: 'Letters of a mark', description: 'Null: any number.' }),
    sections: yes('Sections', 'As spans with a beginning and an end, not only as marks.'),
    lyrics: yes('Lyrics'),
    words: yes('Texts and copyright'),
    timecode: yes('Start timecode'),
    trackNames: yes('Track names'),
    instrumentNames: yes('Instrument names'),
    nameLetters: most(1000).meta({ title: 'Letters of a name', description: 'Null: any number.' }),
    letters: z.enum(letterSets).default('any').meta({
      title: 'How letters are read',
      description:
        'The encoding in which names, marks and words are read there; any, where it is found out.',
    }),
    programs: z.enum(['any', 'General MIDI', 'a list', 'none']).default('any').meta({
      title: 'Programs',
      description: 'General MIDI: its 128 programs and one kit, banks are passed over.',
    }),
    programList: z
      .array(
        z.strictObject({
          program: z.int().min(1).max(128),
          bank: z.int().min(0).max(16_383).nullable().default(null),
        }),
      )
      .max(5000)
      .default([])
      .meta({ title: 'Its programs', description: 'From 1; a bank of null is any bank.' }),
    controllers: z.enum(['all', 'only', 'all but', 'none']).default('all').meta({
      title: 'Controllers that are taken',
    }),
    controllerList: z.array(controller).max(120).default([]).meta({ title: 'Those' }),
    bend: yes('Pitch bend'),
    pressure: yes('Pressure'),
    exclusive: yes('System exclusive'),
    specific: yes('Sequencer-specific events'),
    chunks: yes('Chunks of other kinds'),
    keySwitches: yes('Key switches', 'Without them they are heard as notes.'),
    fileNames: z.enum(fileNameStyles).default('long').meta({
      title: 'File names',
      description:
        'long; 16 letters of ASCII; 8.3: eight capitals, digits and _ before the ending.',
    }),
    ending: z
      .string()
      .regex(/^\.[A-Za-z0-9]{1,8}$/)
      .default('.mid')
      .meta({ title: 'Ending of file names' }),
    start: z.enum(['in its place', 'with its first note']).default('in its place').meta({
      title: 'Start',
      description: 'With its first note: the gap before the music is not there.',
    }),
    gap: z.number().min(0).max(1000).default(0).meta({
      title: 'Gap before a key is struck again',
      unit: 'ms',
      description: 'A note that follows another of its key sooner is not heard.',
    }),
  })
  .refine((l) => l.finest === null || l.resolutions.every((r) => r <= l.finest!), {
    path: ['resolutions'],
    message: 'resolutions that are not above the most ticks a quarter note',
  })
  .refine((l) => (l.programs === 'a list') === l.programList.length > 0, {
    path: ['programList'],
    message: 'programs where a list of them is taken, and none where not',
  })
  .refine(
    (l) =>
      (l.controllers === 'only' || l.controllers === 'all but') === l.controllerList.length > 0,
    {
      path: ['controllerList'],
      message: 'numbers where only those or all but those are taken, and none where not',
    },
  )
  .refine((l) => l.notes || l.marks.length > 0 || l.tempo !== 'none' || l.lyrics, {
    path: ['notes'],
    message: 'something that is taken: notes, marks, lyrics or a tempo',
  })
  .meta({ title: 'What it takes' });
export type Limits = Shown<z.infer<typeof limitsSchema>>;

/** What leaves for a receiver beside the files. */
export const packings = ['files', 'satchel', 'satchel with the song'] as const;

export const receiverSchema = z
  .strictObject({
    name: plainName('Name'),
    about: z.string().max(500).default('').meta({ title: 'Who or what it is' }),
    takes: limitsSchema.prefault({}),
    divide: z.enum(divisions).default('whole').meta({
      title: 'Divided',
      description:
        'How files for it are divided; where a song has no sections, those are one file.',
    }),
    packed: z.enum(packings).default('files').meta({
      title: 'Packed',
      description: 'As files; as a satchel; as a satchel that holds the song as it is kept, too.',
    }),
    recipe: recipeSchema.nullable().default(null).meta({
      title: 'Recipe',
      description: 'Run on the copy that leaves; the song stays as it is.',
    }),
  })
  .meta({ title: 'Receiver' });
export type Receiver = Shown<z.infer<typeof receiverSchema>>;

/** Version of files of receivers. */
export const receiverFileVersion = 1;

/** A file of receivers, as it is imported and exported. */
export const receiverFileSchema = z
  .strictObject({
    version: z.literal(receiverFileVersion).meta({ description: 'Of this description.' }),
    receivers: z.array(receiverSchema).min(1).max(200),
  })
  .meta({ title: 'File of receivers' });
export type ReceiverFile = Shown<z.infer<typeof receiverFileSchema>>;
