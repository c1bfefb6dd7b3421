import { createHash } from 'node:crypto';
import { guessesOf, type GuessedTrack } from '#core/guessing/guess.ts';
import { outsideOf, type Outside } from '#core/harmony/outside.ts';
import { harmonyOf, type Harmony } from '#core/harmony/told.ts';
import { mapAlone } from '#core/handoff/map-alone.ts';
import { ok, type Result } from '#core/problems/problems.ts';
import * as definitions from '#core/instruments/read-file.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { barsChanged } from '#core/work/changed-bars.ts';
import * as handing from '#core/work/hand-off.ts';
import * as holding from '#core/work/contents.ts';
import * as intake from '#core/work/intake.ts';
import * as looking from '#core/work/look.ts';
import { cutClip, type Cut } from '#core/shelf/cut.ts';
import { clipFacts, type ClipFacts } from '#core/shelf/facts.ts';
import { songsOfFile, type FileBytes } from '#core/work/sources.ts';
import type { Blobs, KnownTracks, Lacking, Ports } from '#core/work/ports.ts';
import type { Manifest } from '#core/work/manifest.ts';
import { fromManifest } from '#core/work/revision.ts';
import * as satchels from '#core/work/satchel.ts';
import * as stepping from '#core/work/step.ts';
import * as viewing from '#core/work/view.ts';
import type { Events } from '#core/smf/events.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { tidied } from './tidy.ts';

/**
 * What the worker threads do: the core's work, with this thread's ports. Bytes in, manifests, blobs and
 * facts out; no database.
 */
const mostDecodedBytes = 96 * 1048576;
/** Bytes of a row over all columns, and of what is worked out of a row and hangs on the columns: notes and lanes. */
const bytesARow = 15 + 25;
const sizeOfEvents = ({ count, pool }: Events): number => count * bytesARow + pool.bytes.length;
/** Blobs of opened tracks, which threads share. */
const mostOpenedBytes = 96 * 1048576;
/** A look is a few kilobytes. */
const mostLooks = 4000;

const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');
const ports: Ports = {
  sha256,
  decoded: new KeptLately(mostDecodedBytes, sizeOfEvents),
  looks: new KeptLately(mostLooks, () => 1),
  // A track is a kilobyte beside its blob.
  opened: new KeptLately(mostOpenedBytes, ({ bytes }) => bytes + 1024),
};

export const readFile = (input: Parameters<typeof intake.readFile>[0]) =>
  tidied(intake.readFile(input, ports));
export const contents = (input: FileBytes) => holding.contents(input, ports);

/** A step, or which blobs of tracks are lacking in this thread. */
export function step(input: stepping.StepInput): Result<stepping.Stepped | Lacking> {
  const lacking = stepping.lackingFor(input, ports);
  return lacking.length > 0 ? ok({ lacking }) : tidied(stepping.step(input, ports));
}

export const look = (input: looking.LookInput) => ok(tidied(looking.look(input, ports)));
export const view = (input: Parameters<typeof viewing.view>[0]) =>
  ok(tidied(viewing.view(input, ports)));
export const activity = (input: Parameters<typeof viewing.activity>[0]) =>
  ok(viewing.activity(input, ports));
export const planHandoff = (input: handing.PlanInput) => handing.plan(input, ports);
export const forecast = (input: handing.ForecastInput) => handing.forecast(input, ports);
export const handoffFiles = (input: handing.FilesInput) => tidied(handing.files(input, ports));

interface Stored {
  readonly manifest: Manifest;
  readonly blobs: Blobs;
  readonly known: KnownTracks;
}

/** Every tempo of a revision, as two lists. */
export function tempos({
  manifest,
  blobs,
  known,
}: Stored): Result<{ ticks: number[]; tempos: number[] }> {
  const points = timingOf(fromManifest(manifest, { blobs, known }, ports).song).tempos;
  return ok({ ticks: points.map((p) => p.atTick), tempos: points.map((p) => p.tempo) });
}

/** What goes along with the files of a satchel. */
export const beside = (input: Parameters<typeof satchels.beside>[0]) =>
  satchels.beside(input, ports);
/** A song out of a satchel, checked. */
export const openSatchel = (input: Parameters<typeof satchels.openSatchel>[0]) =>
  satchels.openSatchel(input, ports);

/** What may play the tracks of a revision. */
export const guesses = ({ manifest, blobs, known }: Stored): Result<GuessedTrack[]> =>
  ok(guessesOf(fromManifest(manifest, { blobs, known }, ports).song));

/** The chords and keys of a revision, told from what sounds. */
export function harmony({ manifest, blobs, known }: Stored): Result<HarmonyOfSong> {
  const { song } = fromManifest(manifest, { blobs, known }, ports);
  const told = harmonyOf(song);
  return ok({ ...told, outside: outsideOf(song, told.keys) });
}
export type HarmonyOfSong = Harmony & { readonly outside: readonly Outside[] };

/** What a file is as clips: one for each song in it, called after the file. */
export function clips(file: FileBytes): Result<{ name: string; facts: ClipFacts }[]> {
  const read = songsOfFile(file);
  if (!read.ok) return read;
  return ok(
    read.value.songs.map((song) => ({ name: song.title, facts: clipFacts(song, song.title) })),
  );
}

/** Bars of a revision as a file of their own. */
export const cut = ({ which, name, ...stored }: Stored & { which: Cut; name: string }) =>
  cutClip(fromManifest(stored.manifest, stored, ports).song, which, name);

/** Instruments of a file of definitions. */
export const readInstruments = (bytes: Uint8Array) => definitions.readInstruments(bytes);

/** Where one revision differs from another. */
export const changedBars = (input: Parameters<typeof barsChanged>[0]) =>
  ok(barsChanged(input, ports));

/** The map of a revision as a MIDI file without notes. */
export const mapFile = ({ manifest, blobs }: Stored): Result<Uint8Array> =>
  mapAlone(fromManifest(manifest, { blobs }, ports).song);
