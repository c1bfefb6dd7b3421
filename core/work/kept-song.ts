import { z } from 'zod';
import { definitionSchema } from '../instruments/definition.ts';
import { textEncodings } from '../smf/text.ts';

/** Version of the layout of satchels; `docs/satchel.md` describes it. */
export const satchelVersion = 1;

export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);
const place = z.int().min(0);
const plain = z.string().max(10_000);

const divisionSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('ppq'), ticksPerQuarter: z.int().min(1).max(32_767) }),
  z.strictObject({
    kind: z.literal('smpte'),
    framesPerSecond: z.union([z.literal(24), z.literal(25), z.literal(29), z.literal(30)]),
    ticksPerFrame: z.int().min(1).max(255),
  }),
]);

const manifestSchema = z.strictObject({
  version: z.literal(2),
  title: z.string().max(1000),
  format: z.union([z.literal(0), z.literal(1), z.literal(2)]),
  division: divisionSchema,
  encoding: z.enum(textEncodings),
  nextTrack: z.int().min(1),
  headerExtra: sha256Schema,
  tracks: z
    .array(
      z.strictObject({
        id: z.string().regex(/^t\d{1,9}$/),
        blob: sha256Schema,
        received: z.boolean(),
        parked: z
          .array(z.string().regex(/^\d{1,2}:(\d{1,3}|bend|pressure|program)$/))
          .max(2000)
          .optional(),
        instrument: definitionSchema.optional(),
      }),
    )
    .max(65_535),
  alienChunks: z
    .array(
      z.strictObject({
        beforeTrack: place,
        id: z.string().max(4),
        blob: sha256Schema,
        bytes: place,
      }),
    )
    .max(100_000),
  wrapper: z.strictObject({ before: sha256Schema, after: sha256Schema }).optional(),
});

const stepSchema = z.strictObject({
  revision: place,
  at: z.iso.datetime(),
  operation: z.string().max(100),
  version: z.int().min(1),
  settings: z.record(z.string(), z.unknown()),
  scope: z.record(z.string(), z.unknown()),
  described: plain,
  report: z.record(z.string(), z.unknown()),
  moves: z.record(z.string(), z.unknown()).nullable(),
});

/** A song as it is kept: its original, every revision with the step that made it, and what is left alone. */
export const keptSongSchema = z
  .strictObject({
    version: z.literal(satchelVersion),
    title: z.string().max(1000),
    fileName: z
      .string()
      .min(1)
      .max(255)
      .regex(/^[^\p{Cc}\\/]*$/u),
    original: sha256Schema,
    head: place,
    revisions: z
      .array(z.strictObject({ number: place, parent: place.nullable(), manifest: manifestSchema }))
      .min(1)
      .max(100_000),
    steps: z.array(stepSchema).max(100_000),
    leftAlone: z.array(z.string().max(1000)).max(100_000),
    blobs: z
      .array(z.strictObject({ sha256: sha256Schema, from: place, bytes: place }))
      .max(1_000_000)
      .meta({ description: 'Offset and length of each piece in blobs.bin.' }),
  })
  .meta({ title: 'A song as it is kept' });
export type KeptSong = z.infer<typeof keptSongSchema>;
