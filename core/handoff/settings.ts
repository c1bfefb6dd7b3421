import { z } from 'zod';
import { plainName } from '../edit/plain-text.ts';
import { recipeStepSchema } from '../operations/recipe/run/recipe.ts';
import { barsSchema, scopeSchema } from '../song/scope.ts';
import { finest } from '../timing/resolution.ts';
import { slowestBpm } from '../units/units.ts';
import { nothingHeard, takeSchema } from './take-settings.ts';

const trackIds = z.array(z.string().max(40)).max(70_000);

export const divisions = [
  'whole',
  'tracks',
  'groups',
  'drums',
  'sections',
  'sections-tracks',
  'map',
] as const;
export type Division = (typeof divisions)[number];

const format = z
  .union([z.literal('as-received'), z.literal(0), z.literal(1), z.literal('karaoke')])
  .meta({
    title: 'Format',
    description:
      '"karaoke" is format 1 whose second track holds the words as texts: @K, @L, @T, then syllables, \\ before a page and / before a line (common practice).',
  });
const runningStatus = z.boolean().meta({
  title: 'Running status',
  description: 'Leave out repeated status bytes in tracks that are written anew.',
});
const chunks = z.boolean().meta({
  title: 'Other chunks',
  description:
    'Send chunks of other kinds along: last, where a format is asked for; in their places as received.',
});

/** Longest file names by their letters; what is longer is cut, and what is alike then told apart. */
export const fileNameStyles = ['long', '16', '8.3'] as const;
export type FileNameStyle = (typeof fileNameStyles)[number];

const letters = (title: string, description: string) =>
  z.int().min(1).max(1000).nullable().default(null).meta({ title, description });

export const textForms = ['as they are', 'UTF-8', 'Latin-1', 'Shift-JIS', 'ASCII'] as const;
export type TextForm = (typeof textForms)[number];

const formSchema = z
  .strictObject({
    format: format.optional(),
    runningStatus: runningStatus.optional(),
    chunks: chunks.optional(),
    ppq: z.int().min(1).max(finest).nullable().default(null).meta({
      title: 'Ticks a quarter note',
      description: 'Empty: as in the song. No place moves by more than half a new tick.',
    }),
    text: z.enum(textForms).default('as they are').meta({
      title: 'Letters of names and texts',
      description:
        'Letters that it lacks are written with those it has, each change listed; what has no such letters becomes a question mark.',
    }),
    longestName: letters(
      'Letters of a track name',
      'Longer names are cut, and those that are alike then numbered. Empty: as they are.',
    ),
    longestMark: letters(
      'Letters of a mark',
      'Longer markers and cue points are cut. Empty: as they are.',
    ),
    fileNames: z.enum(fileNameStyles).default('long').meta({
      title: 'File names',
      description:
        '16: so many letters of ASCII. 8.3: eight capitals, digits and _, for old devices.',
    }),
    ending: z
      .string()
      .regex(/^\.[A-Za-z0-9]{1,8}$/)
      .nullable()
      .default(null)
      .meta({ title: 'Ending', description: 'Empty: the usual one.' }),
    end: z.enum(['as it is', 'at the bar']).default('as it is').meta({
      title: 'End of track',
      description: 'At the bar: every track ends with the bar that its last event lies in.',
    }),
    start: z.enum(['in its place', 'with its first note']).default('in its place').meta({
      title: 'Start',
      description:
        'With its first note: that is at tick 0 of each file, and bar lines move with it.',
    }),
    tempo: z.enum(['as it is', 'one, as it sounds', 'one, in its bars']).default('as it is').meta({
      title: 'Tempo map',
      description:
        'For a receiver that reads none. One, as it sounds: every event is placed anew so that it sounds when it did. One, in its bars: every event keeps its bar, and sounds earlier or later.',
    }),
    bpm: z.number().min(slowestBpm).max(1000).nullable().default(null).meta({
      title: 'That tempo',
      unit: 'BPM of the quarter',
      description:
        'Empty: the tempo at its beginning, or in its bars that in which it lasts as long as here.',
    }),
    steps: z
      .strictObject({
        error: z.number().min(0.05).max(1000).default(1).meta({
          title: 'Largest error',
          unit: 'ms',
        }),
        perSecond: z.number().min(0.1).max(1000).nullable().default(null).meta({
          title: 'Most tempos a second',
          description: 'Holds for the whole map, even if the error grows. Empty: any number.',
        }),
      })
      .nullable()
      .default(null)
      .meta({
        title: 'Gradual changes in fewer steps',
        description: 'Empty: with the steps they have in the song.',
      }),
    drums: z.enum(['as they are', 'each its own track']).default('as they are').meta({
      title: 'Drums',
    }),
    language: z
      .string()
      .regex(/^[A-Z]{0,8}$/)
      .default('')
      .meta({
        title: 'Language of the words',
        description: 'What @L says in karaoke order, as ENGL; empty: it is left out.',
      }),
    tracks: z.enum(['as they are', 'one']).default('as they are').meta({
      title: 'Tracks',
      description: 'One: a single track for all sixteen channels, behind the map.',
    }),
  })
  .meta({ title: 'Form' });

const edgesSchema = z
  .strictObject({
    notes: z.enum(['cut', 'keep', 'again']).default('cut').meta({
      title: 'Notes that ring over an end',
      description:
        'cut: they end with their bars. keep: whole, and the file is longer by what rings. again: cut, and struck again on the first tick of the file they ring into.',
    }),
    leadIn: z.boolean().default(true).meta({
      title: 'Bars before the music',
      description:
        'Left out, the file begins with the bar of the first note; what is before the note in that bar stays.',
    }),
  })
  .meta({ title: 'Edges' });

export const handoffSettings = z
  .strictObject({
    format: format.default('as-received'),
    runningStatus: runningStatus.default(true),
    chunks: chunks.default(true),
    scope: scopeSchema
      .extend({
        tracks: z.union([z.literal('all'), trackIds]).default('all'),
        bars: barsSchema.optional(),
      })
      .optional()
      .meta({
        title: 'Scope',
        description: 'Which tracks and bars leave; all where it is left out.',
      }),
    tracks: z
      .union([z.literal('all'), trackIds])
      .optional()
      .meta({ title: 'Tracks', description: 'Those that leave, in the place of the scope’s.' }),
    groups: z
      .array(z.strictObject({ name: z.string().max(200), tracks: trackIds }))
      .max(1000)
      .default([])
      .meta({ title: 'Groups', description: 'Several tracks to one file, by name.' }),
    divide: z.enum(divisions).default('whole').meta({
      title: 'Divided',
      description:
        'A file for the whole, for each track, group, drum key, section, or track of each section; "map" is one file without music.',
    }),
    repeat: z.int().min(1).max(1000).default(1).meta({
      title: 'Times',
      description: 'How often the bars of each file follow each other.',
    }),
    names: z.string().max(300).optional().meta({
      title: 'Names',
      description:
        'A pattern with {song} {track} {nn} {instrument} {bpm} {key} {section} {version}; left out, one that fits the division.',
    }),
    version: z.string().max(60).optional().meta({
      title: 'Version',
      description: 'What {version} stands for; left out, the number of the revision.',
    }),
    recipe: z
      .strictObject({
        name: plainName('Name'),
        steps: z.array(recipeStepSchema).min(1).max(50).meta({ title: 'Steps' }),
      })
      .nullable()
      .default(null)
      .meta({
        title: 'Recipe',
        description: 'Run on the copy that leaves; the song stays as it is.',
      }),
    form: formSchema.prefault({}),
    take: takeSchema.prefault({}),
    edges: edgesSchema.prefault({}),
  })
  .meta({ title: 'Handoff' });

export type HandoffSettings = z.infer<typeof handoffSettings>;
/** Settings as they are asked for: what is left out has its default. */
export type HandoffAsked = z.input<typeof handoffSettings>;

type TopForm = Pick<HandoffSettings, 'format' | 'runningStatus' | 'chunks'>;
export type Form = Omit<HandoffSettings['form'], keyof TopForm> & TopForm;

/** Settings with each question answered in one place. */
export interface Wanted extends Omit<
  HandoffSettings,
  'format' | 'runningStatus' | 'chunks' | 'form'
> {
  readonly form: Form;
}

/** What is said at the top of the settings holds where the form says nothing of it. */
export function wantedOf({
  format,
  runningStatus,
  chunks,
  form,
  ...rest
}: HandoffSettings): Wanted {
  return {
    ...rest,
    // Who names groups wants a file a group.
    divide: rest.divide === 'whole' && rest.groups.length > 0 ? 'groups' : rest.divide,
    take: rest.divide === 'map' ? { ...rest.take, ...nothingHeard } : rest.take,
    form: {
      ...form,
      format: form.format ?? format,
      runningStatus: form.runningStatus ?? runningStatus,
      chunks: form.chunks ?? chunks,
    },
  };
}
