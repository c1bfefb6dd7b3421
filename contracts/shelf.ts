import { z } from 'zod';
import { clipKinds } from '#core/shelf/kind.ts';
import type { Shown } from '#core/units/shown.ts';
import { errorSchema } from './errors.ts';

const mostName = 200;
const mostPath = 1000;
/** Names of folders with "/" between them, as deep as wanted; '' is the shelf itself. */
const folder = z
  .string()
  .max(mostPath)
  .transform((path) =>
    path
      .split('/')
      .map((part) => part.trim())
      .filter((part) => part !== '')
      .join('/'),
  );
/** A folder that clips are put into: in the zip of a shelf "." and ".." would lead out of it. */
const newFolder = folder.refine(
  (path) => !path.split('/').some((part) => part === '.' || part === '..'),
  { error: 'folders with names of their own, neither "." nor ".."' },
);
const name = z.string().trim().min(1).max(mostName);
const tags = z.array(z.string().trim().min(1).max(60)).max(40);

export const clipSchema = z.object({
  id: z.string(),
  sha256: z
    .string()
    .meta({ description: 'Of its bytes, which never change; its name as a source of steps.' }),
  part: z.int().min(1),
  folder: z.string(),
  name: z.string(),
  tags: z.array(z.string()),
  kind: z.enum(clipKinds),
  bars: z.int(),
  meter: z.string(),
  bpm: z.number(),
  key: z.string().nullable(),
  notes: z.int(),
  drums: z.boolean(),
  program: z.int().nullable().meta({ description: 'From 1; null where it says none.' }),
  addedAt: z.iso.datetime(),
});
export type ClipView = Shown<z.infer<typeof clipSchema>>;

const order = ['name', 'folder', 'kind', 'bars', 'meter', 'bpm', 'notes', 'newest'] as const;
const number = z.coerce.number();
export const clipQuerySchema = z.object({
  search: z.string().max(200).default(''),
  folder: folder.optional().meta({ description: 'With those that lie within it.' }),
  kind: z.enum(clipKinds).optional(),
  meter: z.string().max(12).optional(),
  slowest: number.min(0).max(100_000).optional().meta({ description: 'Quarter notes a minute.' }),
  fastest: number.min(0).max(100_000).optional(),
  fewestBars: number.int().min(0).max(1_000_000).optional(),
  mostBars: number.int().min(0).max(1_000_000).optional(),
  drums: z.enum(['true', 'false']).optional(),
  sort: z.enum(order).default('folder'),
  descending: z.enum(['true', 'false']).default('false'),
  from: number.int().min(0).max(10_000_000).default(0),
  limit: number.int().min(1).max(1000).default(200),
});
export type ClipQuery = z.infer<typeof clipQuerySchema>;
export type ClipOrder = (typeof order)[number];

export const clipListSchema = z.object({
  total: z.int(),
  clips: z.array(clipSchema),
  meters: z.array(z.string()).meta({ description: 'Every meter that is on the shelf.' }),
});
export type ClipList = Shown<z.infer<typeof clipListSchema>>;

export const addClipsQuerySchema = z.object({ folder: newFolder.default('') });
export const clipsAddedSchema = z.object({
  clips: z.array(clipSchema),
  twins: z.int().meta({ description: 'How many of the files lay there already.' }),
  problems: z.array(errorSchema),
});
export type ClipsAdded = Shown<z.infer<typeof clipsAddedSchema>>;

export const cutClipSchema = z.strictObject({
  song: z.string(),
  tracks: z.array(z.string()).min(1).max(100_000),
  bars: z.strictObject({ from: z.int().min(1), to: z.int().min(1) }),
  name,
  folder: newFolder.default(''),
});

export const clipChangeSchema = z.strictObject({
  name: name.optional(),
  folder: newFolder.optional(),
  tags: tags.optional(),
  kind: z.enum(clipKinds).optional(),
});

export const folderListSchema = z.object({
  folders: z.array(z.object({ path: z.string(), clips: z.int() })),
});
export type FolderList = Shown<z.infer<typeof folderListSchema>>;

export const folderMoveSchema = z.strictObject({
  from: folder.pipe(z.string().min(1)),
  to: newFolder.pipe(z.string().min(1)),
});
