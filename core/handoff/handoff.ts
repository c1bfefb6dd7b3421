import { z } from 'zod';
import { ok, refused, type Problem, type Result } from '../problems/problems.ts';
import { fitsFormat, writeSmf } from '../smf/write.ts';
import type { Smf, SmfTrack } from '../smf/smf.ts';
import { laneWords } from '../operations/shared/lane-settings.ts';
import { parseLaneKey, sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { trackLabel } from '../song/song.ts';
import { gradualRuns } from '../timing/gradual-runs.ts';
import { effective } from '../timing/tempo-map.ts';
import { timingOf } from '../timing/timing.ts';
import { accountFor, type Account } from './account.ts';
import { mergedTrack } from './format0.ts';
import { proveFile, type Proof } from './proof.ts';
import { withSentTimecode } from './sent-timecode.ts';

export const handoffSettings = z
  .strictObject({
    format: z.union([z.literal('as-received'), z.literal(0), z.literal(1)]).default('as-received').meta({ title: 'Format' }),
    runningStatus: z.boolean().default(true).meta({ title: 'Running status', description: 'Leave out repeated status bytes in tracks that are written anew.' }),
  })
  .meta({ title: 'Handoff' });

export type HandoffSettings = z.infer<typeof handoffSettings>;

export interface Handoff {
  readonly bytes: Uint8Array;
  readonly format: 0 | 1;
  readonly ending: 'mid' | 'rmi';
  readonly account: Account;
  readonly proof: Proof;
  /** What the format cannot say, and how it was written instead. */
  readonly notes: readonly string[];
}

/** The song before anybody touched it. */
export interface Before {
  /** As it came in: what the account holds the song against. Split by channel where that was done at intake. */
  readonly received: Song;
  /** As its file was read: one track where the file had one. */
  readonly asRead: Song;
}

/**
 * Makes the file of a handoff and reads it back.
 * Deterministic: the same song and settings give the same bytes.
 */
export function makeHandoff(whole: Song, before: Before, settings: HandoffSettings): Result<Handoff> {
  const { song, notes: timecodeNotes } = withSentTimecode(sentSong(whole));
  const tooLong = song.tracks.find((t) => !fitsFormat(t.events));
  if (tooLong) return refused(cannotHold(song, trackLabel(song, tooLong)));
  const format = settings.format === 'as-received' ? (song.format === 1 ? 1 : 0) : settings.format;
  const { smf, notes } = format === 1 ? asFormat1(song) : asFormat0(song, before.asRead);
  const wrapped: Smf = settings.format === 'as-received' && song.wrapper ? { ...smf, wrapper: song.wrapper } : smf;
  const bytes = writeSmf(wrapped, { runningStatus: settings.runningStatus });
  return ok({
    bytes,
    format,
    ending: wrapped.wrapper ? 'rmi' : 'mid',
    account: accountFor(before.received, song),
    proof: proveFile(bytes, wrapped),
    notes: [...notes, ...timecodeNotes, ...gradualNotes(song), ...parkedNotes(whole), ...keptMarks(whole), ...(song.wrapper && !wrapped.wrapper ? ['The RIFF wrapper and what else was in it were left out, since another format was asked for.'] : [])],
  });
}

/** What is parked stays here: said track by track. */
const parkedNotes = (song: Song): string[] =>
  song.tracks.flatMap((t) => (t.parked?.length ? [`Parked in ${trackLabel(song, t)} and not sent: ${[...new Set(t.parked.map((key) => laneWords(parseLaneKey(key).what)))].join(', ')}.`] : []));

/** More tempos than this are not looked through for gradual changes. */
const mostLooked = 50_000;

/** Gradual tempo changes are steps in every file: how many, and how near. */
function gradualNotes(song: Song): string[] {
  const { division } = song;
  if (division.kind === 'smpte') return [];
  const tempos = effective(timingOf(song).tempos);
  const runs = tempos.length > mostLooked ? [] : gradualRuns(tempos, division.ticksPerQuarter);
  if (runs.length === 0) return [];
  const steps = runs.reduce((n, r) => n + r.last - r.first, 0);
  const worst = runs.reduce((most, r) => Math.max(most, r.deviation), 0);
  return [`${runs.length === 1 ? 'A gradual tempo change is' : `${runs.length} gradual tempo changes are`} written as ${steps.toLocaleString('en')} steps, at most ${(worst * 1000).toFixed(2)} ms off: the format knows no other.`];
}

/** Marks that do not travel, by name. */
function keptMarks(song: Song): string[] {
  const { markers, cuePoints, texts, sections } = timingOf(song);
  const kept = [...markers, ...cuePoints, ...texts].filter((m) => !m.travels).map((m) => m.text);
  const spans = sections.filter((s) => !s.travels).map((s) => s.name);
  const named = [...kept, ...spans];
  return named.length === 0 ? [] : [`Kept here and not sent: ${named.slice(0, 20).map((n) => `“${n}”`).join(', ')}${named.length > 20 ? ` and ${named.length - 20} more` : ''}.`];
}

function cannotHold(song: Song, name: string): Problem {
  return {
    code: 'format-cannot-hold',
    where: { track: song.tracks.findIndex((t) => trackLabel(song, t) === name) + 1 },
    why: `more than 268,435,455 ticks between two events of ${name}`,
    remedy: 'Remove the event that lies far behind the rest.',
  };
}

interface Laid {
  readonly smf: Smf;
  readonly notes: readonly string[];
}

const headerOf = ({ division, headerExtra, alienChunks }: Song): Pick<Smf, 'division' | 'headerExtra' | 'alienChunks'> => ({ division, headerExtra, alienChunks });

function asFormat1(song: Song): Laid {
  return { smf: { ...headerOf(song), format: 1, tracks: song.tracks.map(smfTrack) }, notes: [] };
}

const smfTrack = ({ events, body }: Song['tracks'][number]): SmfTrack => (body ? { events, body } : { events });

function asFormat0(song: Song, asRead: Song): Laid {
  const { track, notes } = mergedTrack(song, asRead);
  const alienChunks = song.alienChunks.map((chunk) => ({ ...chunk, beforeTrack: Math.min(chunk.beforeTrack, 1) }));
  return { smf: { ...headerOf(song), alienChunks, format: 0, tracks: [track] }, notes };
}
