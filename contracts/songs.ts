import { z } from 'zod';
import { definitionSchema } from '#core/instruments/definition.ts';
import { textEncodings } from '#core/smf/text.ts';
import { anchors } from '#core/timing/marks.ts';
import { frameRateNames } from '#core/timing/timecode.ts';
import { guessesSchema } from './guesses.ts';
import { errorSchema } from './errors.ts';
import type { Shown } from '#core/units/shown.ts';

const count = z.int().min(0);
const tick = z.number().min(0).meta({ unit: 'ticks' });

export const divisionSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('ppq'), ticksPerQuarter: z.int().min(1) }),
  z.object({
    kind: z.literal('smpte'),
    framesPerSecond: z.union([z.literal(24), z.literal(25), z.literal(29), z.literal(30)]),
    ticksPerFrame: z.int().min(1),
  }),
]);

export const trackSchema = z.object({
  id: z.string(),
  name: z.string().meta({ description: 'Empty where the track has none.' }),
  ownName: z.boolean(),
  channel: z
    .int()
    .min(1)
    .max(16)
    .nullable()
    .meta({ description: 'The one channel it plays on, from 1; null for none or several.' }),
  channels: z.array(z.int().min(1).max(16)),
  ports: z.array(count),
  programs: z.array(
    z.object({
      channel: z.int().min(1).max(16),
      program: z.int().min(1).max(128),
      name: z.string(),
      bank: z.int().optional(),
      atTick: tick,
    }),
  ),
  events: count,
  notes: count,
  hangingNotes: count,
  pitch: z.object({ lowest: z.int(), highest: z.int() }).optional(),
  velocity: z
    .object({
      lowest: z.int(),
      highest: z.int(),
      mean: z.number(),
      distinct: z.int(),
      bins: z.array(count),
    })
    .optional(),
  controllers: z.array(z.object({ controller: z.int(), name: z.string(), count })),
  parked: z.array(z.string()).optional().meta({
    description:
      'Lanes that are kept but not played and not sent: channel from 0, a colon, and a controller number, bend, pressure or program.',
  }),
  instrument: definitionSchema.optional().meta({
    description: 'The definition that plays it: the song’s own copy.',
  }),
  counts: z.object({
    events: count,
    notes: count,
    pitchBend: count,
    pressure: count,
    programChanges: count,
    systemExclusive: count,
    lyrics: count,
    texts: count,
    tempos: count,
    meters: count,
    markers: count,
  }),
  firstNoteTick: tick.optional(),
  lastNoteTick: tick.optional(),
  endTick: tick,
  activity: z
    .array(count)
    .meta({ description: 'Notes that sound in each cell of the song’s bars.' }),
  sha256: z
    .string()
    .meta({ description: 'Hash of the track’s MTrk bytes: equal tracks, equal hashes.' }),
});
export type TrackView = Shown<z.infer<typeof trackSchema>>;

const position = z.string().meta({ description: 'bar.beat.tick, bars and beats from 1' });
const travels = z.boolean().meta({ description: 'It is sent; else it is kept here only.' });
const anchor = z.enum(anchors).meta({
  description: 'bars: the mark moves with them. time: the mark keeps its time.',
});
const mark = z.object({
  atTick: tick,
  position,
  text: z.string(),
  whole: z
    .string()
    .optional()
    .meta({ description: 'The text with its blanks and lines, where it has such.' }),
  track: z.string(),
  travels,
  anchor,
});
const section = z.object({
  name: z.string(),
  fromTick: tick,
  toTick: tick.meta({ description: 'Where it ends; not part of it.' }),
  from: position,
  to: position,
  track: z.string(),
  travels,
  anchor,
});

export const timingSchema = z.object({
  tempos: z.array(
    z.object({
      atTick: tick,
      position,
      microsecondsPerQuarter: z.int(),
      bpm: z.number(),
      seconds: z.number(),
    }),
  ),
  tempoCount: count.meta({ description: 'How many there are; the list holds the first 5,000.' }),
  meters: z.array(
    z.object({ atTick: tick, bar: z.int(), numerator: z.int(), denominator: z.int() }),
  ),
  copyright: z.array(z.string()).meta({ description: 'Copyright notices, each once.' }),
  clicks: z
    .array(
      z.object({
        atTick: tick,
        numerator: z.int(),
        denominator: z.int(),
        clocks: z.int().meta({ description: 'MIDI clocks a click, of 24 a quarter.' }),
        thirtySeconds: z
          .int()
          .meta({ description: 'Notated thirty-seconds a quarter; 8 is usual.' }),
      }),
    )
    .meta({ description: 'Meters that say another click than is usual.' }),
  keys: z.array(z.object({ atTick: tick, position, sharps: z.int(), minor: z.boolean() })),
  markers: z.array(mark),
  cuePoints: z.array(mark),
  texts: z.array(mark),
  chords: z.array(mark).meta({ description: 'The chord line: texts that begin with “chord: ”.' }),
  sections: z.array(section),
  startTimecode: z.string().optional().meta({ description: 'hh:mm:ss:ff at bar 1' }),
  frameRate: z.number().optional(),
  timecode: z
    .object({ atTick: tick, rate: z.enum(frameRateNames), frames: z.number() })
    .optional()
    .meta({ description: 'The timecode that is stated: frames from 00:00:00:00 at a tick.' }),
  bars: count,
  barsPerCell: z.int().min(1),
  cellTicks: z
    .array(tick)
    .meta({ description: 'Tick where each cell begins, with the end behind.' }),
  endTick: tick,
  seconds: z.number(),
});
export type TimingView = Shown<z.infer<typeof timingSchema>>;

export const tempoListSchema = z.object({
  revision: z.int(),
  ticks: z.array(tick),
  tempos: z.array(z.int()).meta({ unit: 'microseconds a quarter' }),
});
export type TempoList = Shown<z.infer<typeof tempoListSchema>>;

/** Words that somebody put to a song. */
export const tagsSchema = z.array(z.string().trim().min(1).max(60)).max(20);
export const tagSongSchema = z.strictObject({ tags: tagsSchema });
export const taggedSchema = z.object({ tags: tagsSchema });

export const songRowSchema = z.object({
  id: z.uuid(),
  title: z.string(),
  fileName: z.string(),
  bytes: count,
  format: z.int(),
  tracks: count,
  notes: count,
  bars: count,
  seconds: z.number(),
  problems: count,
  steps: count.meta({ description: 'Steps in force.' }),
  revision: count,
  tags: tagsSchema,
  openFindings: count.optional().meta({
    description:
      'Findings that are not left alone; left out where it was not looked over as it is.',
  }),
  handedOff: z
    .object({ at: z.iso.datetime(), to: z.string().optional(), revision: count })
    .optional()
    .meta({ description: 'When it was handed off last, to whom, and from which revision.' }),
  createdAt: z.iso.datetime(),
  updatedAt: z.iso.datetime(),
  removedAt: z.iso.datetime().optional(),
  purgeAt: z.iso.datetime().optional().meta({ description: 'When a removed song is purged.' }),
  keptBytes: count.optional().meta({
    description:
      'Everything that is kept of it: the original, and the events of all its revisions and handoffs.',
  }),
});
export type SongRow = Shown<z.infer<typeof songRowSchema>>;

export const songListQuerySchema = z.strictObject({
  removed: z
    .enum(['true', 'false'])
    .default('false')
    .transform((v) => v === 'true')
    .meta({ description: 'true for the removed ones' }),
  search: z
    .string()
    .max(200)
    .default('')
    .meta({ description: 'Part of a title, file name or tag' }),
  sort: z.enum(['newest', 'oldest', 'touched', 'name', 'largest']).default('newest'),
  from: z.coerce
    .number()
    .int()
    .min(0)
    .max(10_000_000)
    .default(0)
    .meta({ description: 'How many to pass over' }),
  limit: z.coerce
    .number()
    .int()
    .min(1)
    .max(500)
    .default(100)
    .meta({ description: 'How many at most' }),
});
export type SongListQuery = z.output<typeof songListQuerySchema>;

export const songListSchema = z.object({
  songs: z.array(songRowSchema),
  total: count.meta({ description: 'How many there are in all.' }),
  keepRemovedDays: z
    .number()
    .meta({ description: 'Removed songs are purged after so many days; 0 for never.' }),
});
export type SongList = Shown<z.infer<typeof songListSchema>>;

export const removedSchema = z.object({
  removedAt: z.iso.datetime(),
  purgeAt: z.iso
    .datetime()
    .nullable()
    .meta({ description: 'When it is purged with what nothing else needs; null for never.' }),
});
export type RemovedView = Shown<z.infer<typeof removedSchema>>;

export const songSchema = songRowSchema.extend({
  original: z.object({
    sha256: z.string(),
    bytes: count,
    fileName: z.string(),
    wrapped: z.boolean(),
    alienChunks: z.array(z.object({ id: z.string(), bytes: count })),
  }),
  receivedFormat: z.int(),
  division: divisionSchema,
  divisionText: z.string(),
  /** How texts that are not UTF-8 are read. */
  encoding: z.enum(textEncodings),
  reading: z
    .array(errorSchema)
    .meta({ description: 'What was wrong with the file as it came, and what was done about it.' }),
  mapTrack: z
    .boolean()
    .meta({ description: 'The first track holds the song’s own facts and no music.' }),
  undo: z.string().nullable().meta({ description: 'The step that undo would take back.' }),
  redo: z.string().nullable(),
  timing: timingSchema,
  tracks: z.array(trackSchema),
});
export type SongView = Shown<z.infer<typeof songSchema>>;

export const uploadedSchema = z.object({
  songs: z.array(songRowSchema),
  problems: z.array(errorSchema).meta({
    description:
      'What was wrong with the files, and which were refused; where.file names the file.',
  }),
});
export type Uploaded = Shown<z.infer<typeof uploadedSchema>>;

/** How many tracks are sent at once. */
export const mostBlobs = 1000;

export const blobsSchema = z.strictObject({
  hashes: z
    .array(z.string().regex(/^[0-9a-f]{64}$/))
    .min(1)
    .max(mostBlobs)
    .meta({ description: 'As a song names its tracks’ events; each once.' }),
});

/** What a file holds, before anything of it is taken. */
export const originalSchema = z.object({
  sha256: z.string().meta({ description: 'Its name as a source of steps.' }),
  bytes: count,
  fileName: z
    .string()
    .optional()
    .meta({ description: 'As it was sent; the file is known by its hash alone.' }),
  parts: z
    .array(
      z.object({
        part: z.int().min(1).meta({ description: 'Which of the songs in the file.' }),
        title: z.string(),
        format: z.int(),
        division: divisionSchema,
        divisionText: z.string(),
        notes: count,
        mapTrack: z.boolean(),
        timing: timingSchema,
        tracks: z.array(trackSchema.omit({ sha256: true })),
        guesses: guessesSchema.shape.tracks.meta({ description: 'What may play its tracks.' }),
      }),
    )
    .meta({ description: 'Several where it holds several patterns, or several files.' }),
  problems: z.array(errorSchema).meta({ description: 'What was wrong with it and was mended.' }),
});
export type OriginalView = Shown<z.infer<typeof originalSchema>>;

/** Where a file is from; empty where nobody said it. */
export const fileSourceSchema = z.strictObject({
  source: z
    .string()
    .trim()
    .max(500)
    .regex(/^\P{Cc}*$/u)
    .meta({ description: 'A page, a person, a licence; empty: nobody said it.' }),
});

export const originalsSchema = z.object({
  originals: z.array(originalSchema),
  problems: z
    .array(errorSchema)
    .meta({ description: 'Which files were refused; where.file names the file.' }),
});
