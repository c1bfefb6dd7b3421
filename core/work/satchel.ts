import { z } from 'zod';
import { listCsv } from '../lists/map-csv.ts';
import { mapAlone } from '../handoff/map-alone.ts';
import { schemaFaultWords } from '../problems/schema-fault.ts';
import { valueFault } from '../problems/plain-values.ts';
import { ok, refused, type Problem, type Result } from '../problems/problems.ts';
import { readSmf } from '../smf/read.ts';
import { mapsOf } from '../song/maps.ts';
import { timingSummary } from '../song/song-summary.ts';
import { timingOf } from '../song/timing-of.ts';
import { clickFile, type ClickFile } from '../timing/click-track.ts';
import { concatBytes } from '../smf/chunks.ts';
import { checkHistory } from './check-history.ts';
import { keptSongSchema, satchelVersion, sha256Schema, type KeptSong } from './kept-song.ts';
import type { Manifest } from './manifest.ts';
import type { Blobs, Ports } from './ports.ts';
import { blobsOf, fromManifest } from './revision.ts';
import type { MadeRevision } from './step.ts';
import { view } from './view.ts';

/** What says of a zip archive that it is a satchel. */
export const satchelSchema = z.object({
  satchel: z.literal('Amber Satchel'),
  version: z.int().min(1),
  song: z.string(),
  files: z.array(z.object({ name: z.string(), bytes: z.int().min(0), sha256: sha256Schema })),
});
export type SatchelList = z.infer<typeof satchelSchema>;

/** What goes along with the files. */
export interface Beside {
  readonly map: Uint8Array;
  readonly marks: string;
  /** Where the song is no longer than a click can be. */
  readonly click?: Uint8Array;
}

const click = {
  parts: 1,
  dotted: true,
  countIn: 0,
  rate: 48_000,
  bits: 16,
} as const satisfies ClickFile;

/** The map alone, its marks as a list, and the click of a song. */
export function beside(
  { manifest, blobs }: { manifest: Manifest; blobs: Blobs },
  ports: Ports,
): Result<Beside> {
  const { song } = fromManifest(manifest, { blobs }, ports);
  const map = mapAlone(song);
  if (!map.ok) return map;
  const timed = { timing: timingSummary(song), division: song.division };
  const { tempos, meters, endTick } = timingOf(song);
  const made = clickFile({ tempos, meters, division: song.division, endTick }, click);
  return ok({
    map: map.value,
    marks: listCsv(timed, mapsOf(timed, tempos)),
    ...(typeof made === 'string' ? {} : { click: made }),
  });
}

/** A song out of a satchel, as it can be stored. */
export interface OpenedSatchel {
  readonly song: KeptSong;
  readonly blobs: Blobs;
  /** By the places of the revisions. */
  readonly made: readonly MadeRevision[];
}

const broken = (why: string, file = 'song/song.json'): Result<never> =>
  refused({ code: 'satchel-unreadable', where: { file }, why });

/**
 * Checks a song out of a satchel: every piece is what its hash says, every revision is made of pieces that are
 * there and can be read, and each but the first was made from one before it.
 */
export function openSatchel(
  { list, packed, original }: { list: Uint8Array; packed: Uint8Array; original: Uint8Array },
  ports: Ports,
): Result<OpenedSatchel> {
  const said = parsed(list);
  const version = (said as { version?: unknown } | undefined)?.version;
  if (typeof version === 'number' && version > satchelVersion)
    return refused({
      code: 'satchel-newer',
      where: { file: 'song/song.json', field: 'version' },
      version,
      known: satchelVersion,
    });
  const read = keptSongSchema.safeParse(said);
  if (!read.success) return broken(schemaFaultWords('song', read.error, said));
  const fault = valueFault('song', read.data);
  if (fault) return broken(faultWords(fault));
  const history = checkHistory(read.data);
  if ('why' in history) return broken(history.why);
  const song = { ...read.data, steps: history.steps };
  if (ports.sha256(original) !== song.original)
    return broken('the original is not the one that its hash says', 'song/original');
  const blobs: Blobs = new Map();
  for (const { sha256, from, bytes } of song.blobs) {
    if (from + bytes > packed.length) return broken('it is cut short', 'song/blobs.bin');
    const piece = packed.slice(from, from + bytes);
    if (ports.sha256(piece) !== sha256)
      return broken(`a piece is not what its hash says: ${sha256.slice(0, 12)}…`, 'song/blobs.bin');
    blobs.set(sha256, piece);
  }
  const made: MadeRevision[] = [];
  const numbers = new Set<number>();
  for (const { number, parent, manifest } of song.revisions) {
    if (numbers.has(number) || (parent === null ? number !== 0 : !numbers.has(parent)))
      return broken(`revision ${number} was made from none before it`);
    numbers.add(number);
    const missing = blobsOf(manifest as Manifest).find((b) => !blobs.has(b));
    if (missing)
      return broken(`a piece of revision ${number} is missing: ${missing.slice(0, 12)}…`);
    const unread = manifest.tracks.find((t) => !isTrack(blobs.get(t.blob)!));
    if (unread) return broken(`track ${unread.id} of revision ${number} cannot be read`);
    const worked = view({ manifest: manifest as Manifest, blobs, known: new Map() }, ports);
    made.push({ manifest: manifest as Manifest, view: worked.view, facts: worked.facts });
  }
  if (!numbers.has(song.head)) return broken('the revision that it is at is not there');
  if (song.steps.some((s) => !numbers.has(s.revision) || s.revision === 0))
    return broken('a step made a revision that is not there');
  return ok({ song, blobs, made });
}

const faultWords = (fault: Problem): string =>
  `${fault.where.field ?? 'song'}: ${'found' in fault ? fault.found : fault.code}`;

const tracksRead = new WeakMap<Uint8Array, boolean>();

/** Whether bytes are the body of a track that reads without a fault. */
function isTrack(body: Uint8Array): boolean {
  const had = tracksRead.get(body);
  if (had !== undefined) return had;
  const size = new Uint8Array(4);
  new DataView(size.buffer).setUint32(0, body.length);
  const header = Uint8Array.from([
    77, 84, 104, 100, 0, 0, 0, 6, 0, 1, 0, 1, 0, 96, 77, 84, 114, 107,
  ]);
  const reading = readSmf(concatBytes([header, size, body]));
  const fine =
    reading.ok && reading.value.smf.tracks.length === 1 && reading.value.problems.length === 0;
  tracksRead.set(body, fine);
  return fine;
}

function parsed(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return undefined;
  }
}
