import { ok, refused, type RefusalProblem, type Result } from '../problems/problems.ts';
import type { Events } from './events.ts';
import { findHeader, type Header } from './header.ts';
import { Landmarks } from './landmarks.ts';
import { looksLike } from './looks-like.ts';
import { Effort, ProblemLog, TrackLog } from './problem-log.ts';
import { mostChunks, readChunks, type Chunks } from './read-chunks.ts';
import { readTrack } from './read-track.ts';
import { unwrapRiff } from './riff.ts';
import type { Smf, SmfReading } from './smf.ts';

/** Most events taken from one file: 16 million are over 300 MB of columns. */
export const mostEvents = 16_000_000;

/** Most MIDI files taken out of one. */
const mostFiles = 500;

/**
 * Reads every standard MIDI file that the bytes hold (SMF 1.0; RIFF wrappers of RP-029): one as a rule,
 * several where files were glued together or lie in a container. Tolerant: what is damaged is salvaged and
 * every problem told; only bytes that hold no MIDI at all are refused.
 */
export function readSmfs(file: Uint8Array): Result<readonly SmfReading[], RefusalProblem> {
  if (file.length === 0) return refused({ code: 'file-empty', where: {} });
  const log = new ProblemLog();
  const wrapped = unwrapRiff(file, log);
  // Offsets stay those of the whole file: the data is cut at its end, not at its beginning.
  const bytes = wrapped ? file.subarray(0, wrapped.to) : file;
  const marks = new Landmarks(bytes);
  const effort = new Effort(bytes.length);
  const readings: SmfReading[] = [];
  let left = mostEvents;
  for (let at: number = wrapped?.from ?? 0, own = log; at !== -1; own = new ProblemLog()) {
    const header = findHeader(bytes, at, marks, own);
    if (!header) break;
    const chunks = readChunks(bytes, header, marks, own, effort);
    left -= chunks.events;
    if (left < 0) return refused({ code: 'too-many-events', where: {}, most: mostEvents });
    if (chunks.tracks.length + chunks.alienChunks.length > mostChunks)
      return refused({ code: 'too-many-chunks', where: {}, most: mostChunks });
    if (readings.length === mostFiles)
      return refused({ code: 'too-many-files', where: {}, most: mostFiles });
    if (chunks.tracks.length > 0) readings.push(reading(header, chunks, own));
    else if (readings.length === 0 && chunks.nextFile === -1)
      return refused({ code: 'no-tracks', where: {} });
    at = chunks.nextFile;
  }
  const [first, ...others] = readings;
  if (!first) return refused({ code: 'not-midi', where: {}, ...looksLike(file) });
  // A wrapper is the first file's; the rest of them have none.
  const whole = wrapped ? { ...first, smf: { ...first.smf, wrapper: wrapped.wrapper } } : first;
  if (others.length === 0) return ok([whole]);
  return ok([
    {
      ...whole,
      problems: [{ code: 'several-files', where: {}, files: readings.length }, ...whole.problems],
    },
    ...others,
  ]);
}

/** The first file that the bytes hold. */
export function readSmf(file: Uint8Array): Result<SmfReading, RefusalProblem> {
  const readings = readSmfs(file);
  return readings.ok ? ok(readings.value[0]!) : readings;
}

function reading(header: Header, { tracks, alienChunks }: Chunks, log: ProblemLog): SmfReading {
  const smf: Smf = {
    format: settleFormat(header, tracks.length, log),
    division: header.division,
    headerExtra: header.extra,
    tracks,
    alienChunks,
  };
  return { smf, problems: log.problems() };
}

function settleFormat(header: Header, tracks: number, log: ProblemLog): 0 | 1 | 2 {
  if (header.stated !== -1 && header.stated !== tracks)
    log.add({
      code: 'track-count',
      where: { chunk: 'MThd' },
      stated: header.stated,
      found: tracks,
    });
  const { format } = header;
  if (format > 2)
    log.add({
      code: 'format-unknown',
      where: { chunk: 'MThd' },
      format,
      taken: tracks === 1 ? 0 : 1,
    });
  if (format === 0 && tracks > 1)
    log.add({ code: 'format0-many-tracks', where: { chunk: 'MThd' }, tracks });
  if (format === 0 || format > 2) return tracks === 1 ? 0 : 1;
  return format as 1 | 2;
}

/** Events of a sound track body, such as `writeTrack` makes and the store keeps. */
export function readTrackBody(body: Uint8Array): Events {
  return readTrack(body, 0, body.length, new TrackLog(new ProblemLog(), 1, new Effort(body.length)))
    .events;
}
