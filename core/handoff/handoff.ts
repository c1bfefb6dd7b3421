import { runStep } from '../operations/run.ts';
import { ok, refused, type Result } from '../problems/problems.ts';
import { divisionText } from '../smf/division.ts';
import { writeSmf } from '../smf/write.ts';
import { bridgedSong } from '../song/bridged-song.ts';
import { sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { accountFor, accountOfPart, type Account } from './account.ts';
import { extentOf, type Extent } from './extent.ts';
import { channelsFormed } from './form/channels.ts';
import { inKaraokeOrder } from './form/karaoke.ts';
import { tempoFormed } from './form/tempo.ts';
import { lengthsFormed } from './form/lengths.ts';
import { lettersFormed } from './form/text.ts';
import { copyFor } from './copy.ts';
import { layOut } from './layout.ts';
import { gradualNotes, keptMarks, parkedNotes } from './notes.ts';
import { leavesBy, taken } from './part/taken.ts';
import { pieceOf } from './part/piece.ts';
import { planOf, type Plan, type PlannedFile } from './plan.ts';
import { proveFile, proveNothing } from './proof/prove-file.ts';
import type { Proof } from './proof/verify-bytes.ts';
import { defaultTempo, tempoAt, tempoMap } from '../timing/tempo-map.ts';
import { tempoToBpm } from '../units/units.ts';
import { withSentTimecode } from './sent-timecode.ts';
import { takeSchema } from './take-settings.ts';
import { handoffSettings, wantedOf, type HandoffAsked, type Wanted } from './settings.ts';

export interface Handoff {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly format: 0 | 1;
  readonly division: string;
  readonly ending: 'mid' | 'rmi';
  readonly account: Account;
  readonly extent: Extent;
  /** Copyright notices that the file holds. */
  readonly copyright: readonly string[];
  readonly proof: Proof;
  /** What the format cannot say, and how it was written instead; what was left out or changed, and why. */
  readonly notes: readonly string[];
}

/** The song before anybody touched it. */
export interface Before {
  /** As it came in: what the account holds the song against. Split by channel where that was done at intake. */
  readonly received: Song;
  /** As its file was read: one track where the file had one. */
  readonly asRead: Song;
}

/** What a handoff is made of, and the files that it will have. */
export interface Planned {
  readonly plan: Plan;
  readonly wanted: Wanted;
  /** The song that it was planned for: as it is here, or as a recipe left it. */
  readonly source: Song;
  /** What is said of all files at once. */
  readonly notes: readonly string[];
}

export interface Names {
  /** Ending of a file that leaves as it was received, with its dot. */
  readonly ending?: string;
  /** What {version} says. */
  readonly version?: string;
}

/** Which files a song is handed off as. Deterministic: the same song and settings give the same files. */
export function planHandoff(
  whole: Song,
  asked: HandoffAsked,
  { ending = '.mid', version = '1' }: Names = {},
): Result<Planned> {
  const wanted = wantedOf(handoffSettings.parse(asked));
  const copy = copyFor(whole, wanted.recipe);
  if (!copy.ok) return copy;
  const { song: sent, notes } = withSentTimecode(sentSong(copy.value.song));
  const plan = planOf(sent, wanted, {
    ending: wanted.form.format === 'as-received' && wanted.divide === 'whole' ? ending : '.mid',
    version: wanted.version ?? version,
    sections: timingOf(copy.value.song).sections,
    gone: copy.value.gone,
  });
  if (!plan.ok) return plan;
  return ok({
    plan: plan.value,
    source: copy.value.song,
    wanted: { ...wanted, take: { ...wanted.take, channels: plan.value.channels } },
    notes: [
      ...copy.value.notes,
      ...plan.value.notes,
      ...(wanted.take.timecode ? notes : []),
      ...parkedNotes(whole),
      ...keptMarks(whole),
    ],
  });
}

/** Whether a file holds the song as it is: then its tracks are the very objects, and nothing need be judged. */
const isPlain = ({ tracks, span }: PlannedFile, song: Song, piece: Song): boolean =>
  tracks === undefined &&
  span === undefined &&
  song.division === piece.division &&
  song.tracks.length === piece.tracks.length &&
  song.tracks.every((t, n) => t === piece.tracks[n]);

/** Makes one file of a handoff, holds it against the song and reads it back. */
export function makeFile(
  planned: Planned,
  file: PlannedFile,
  before: Before,
  { prove = true }: { prove?: boolean } = {},
): Result<Handoff> {
  const { plan, wanted } = planned;
  const formed = formFile(planned, file);
  if (!formed.ok) return formed;
  const { song: piece, notes } = formed.value;
  const held = bridgedSong(piece);
  if (!held.ok) return held;
  const { song } = held.value;
  const plain = isPlain(file, plan.song, piece);
  const { form, take } = wanted;
  // A part has ticks of its own, and no order that was received.
  const asRead = plain ? before.asRead : ({ ...before.asRead, format: 1 } as const);
  const laid = layOut(plain ? song : withoutWrapper(song), asRead, {
    format: form.format === 'karaoke' ? 1 : form.format,
    chunks: form.chunks,
    oneTrack: form.tracks === 'one',
    sayable: { names: take.instrumentNames, prefixes: take.ports, texts: take.texts },
  });
  const bytes = writeSmf(laid.smf, { runningStatus: form.runningStatus });
  const name = laid.smf.wrapper ? file.name.replace(/\.\w+$/, '.rmi') : unwrappedName(file.name);
  const made = { bytes, name, leaving: piece, written: song, laid: laid.smf };
  const proof = prove ? proveFile(planned, file, { ...made, asRead }) : proveNothing;
  return ok({
    name,
    bytes,
    format: laid.smf.format === 0 ? 0 : 1,
    division: divisionText(laid.smf.division),
    ending: laid.smf.wrapper ? 'rmi' : 'mid',
    account:
      plain || (file.span === undefined && file.tracks === undefined)
        ? accountFor(before.received, song)
        : accountOfPart(song),
    extent: { ...extentOf(song), tracks: laid.smf.tracks.length },
    copyright: timingOf(song).copyright,
    proof,
    notes: [...notes, ...laid.notes, ...(take.tempo ? gradualNotes(song) : [])],
  });
}

const unwrappedName = (name: string): string => name.replace(/\.rmi$/i, '.mid');

/** A wrapper goes with the song as it is alone. */
function withoutWrapper(song: Song): Song {
  const { wrapper, ...rest } = song;
  return rest;
}

/** A part of the song as it leaves, before it is laid out in a file. */
export interface Formed {
  readonly song: Song;
  /** Its tempo at the beginning, whether that leaves or not, in microseconds a quarter. */
  readonly begins: number;
  readonly notes: readonly string[];
}

/**
 * One part of the song in the form the receiver takes: cut, its tempo map, what leaves of it, its channels,
 * resolution and letters, in this order.
 */
export function formFile(
  { plan: { song }, wanted }: Pick<Planned, 'plan' | 'wanted'>,
  file: PlannedFile,
): Result<Formed> {
  const { form, take } = wanted;
  const cut = pieceOf(song, file, wanted, leavesBy(take));
  const timed = tempoFormed(cut.song, form);
  const kept = taken(timed.song, take);
  const channelled = channelsFormed(kept.song, take.channels);
  const resolved = inResolution(channelled.song, form.ppq, take.tempo);
  if (!resolved.ok) return resolved;
  const worded =
    form.format === 'karaoke'
      ? inKaraokeOrder(resolved.value.song, form.language)
      : { song: resolved.value.song, notes: [] };
  const lettered = lettersFormed(worded.song, form.text);
  const short = lengthsFormed(lettered.song, form);
  // Frames obey no tempo; in quarter notes they stay in time at 120 BPM.
  const begins =
    song.division.kind === 'smpte'
      ? defaultTempo
      : tempoAt(tempoMap(timingOf(timed.song).tempos, timed.song.division), 0);
  const isTimed = song.division.kind === 'ppq' || form.ppq !== null;
  const music = short.song.tracks.some((t) => t.events.status.some((s) => s >> 4 === 9));
  return ok({
    song: short.song,
    begins,
    notes: [
      ...cut.notes,
      ...timed.notes,
      ...(take.tempo || !music || !isTimed ? [] : [setTempoWords(begins)]),
      ...kept.notes,
      ...channelled.notes,
      ...resolved.value.notes,
      ...worded.notes,
      ...lettered.notes,
      ...short.notes,
    ],
  });
}

/** What is to be done where no tempo arrives. */
const setTempoWords = (tempo: number): string =>
  `It holds no tempo: set ${Number(tempoToBpm(tempo).toFixed(3))} BPM of the quarter where it is opened.`;

/** In another resolution; frames become quarter notes at 120 BPM, where every event stays in its time. */
function inResolution(
  song: Song,
  ppq: number | null,
  tempoLeaves: boolean,
): Result<{ song: Song; notes: string[] }> {
  if (ppq === null || (song.division.kind === 'ppq' && song.division.ticksPerQuarter === ppq))
    return ok({ song, notes: [] });
  const frames = song.division.kind === 'smpte';
  const made = runStep(song, {
    operation: frames ? 'timing.to-quarters' : 'timing.resolution',
    settings: { ppq },
    scope: { tracks: 'all' },
  });
  if (!made.ok) return made;
  const detail = made.value.report.changes.find((c) => c.detail)?.detail ?? '';
  const withTempo = made.value.song;
  return ok({
    song: tempoLeaves ? withTempo : taken(withTempo, takeSchema.parse({ tempo: false })).song,
    notes: [`${ppq} ticks a quarter note${frames ? ', at 120 BPM' : ''}: ${detail}.`],
  });
}

/**
 * Makes the file of a handoff that has one, and reads it back.
 * Deterministic: the same song and settings give the same bytes.
 */
export function makeHandoff(whole: Song, before: Before, asked: HandoffAsked): Result<Handoff> {
  const planned = planHandoff(whole, asked);
  if (!planned.ok) return planned;
  const [file, ...others] = planned.value.plan.files;
  if (!file || others.length > 0)
    return refused({
      code: 'handoff-nothing',
      where: { field: 'divide' },
      why: 'That makes several files',
      remedy: 'Make them one by one.',
    });
  const made = makeFile(planned.value, file, before);
  if (!made.ok) return made;
  return ok({ ...made.value, notes: [...made.value.notes, ...planned.value.notes] });
}
