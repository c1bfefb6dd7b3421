import type { Song } from '../../song/song.ts';
import { meterMap, positionAt } from '../../timing/meter-map.ts';
import type { Part } from '../part/piece.ts';
import type { Wanted } from '../settings.ts';
import type { Difference } from './compare-ticks.ts';
import type { PartCase } from './part-case.ts';
import { findSpan, placesOf } from './places.ts';
import { readSongMap } from './reading/song-map.ts';
import { verifyChannels } from './verify-channels.ts';
import { verifyLength } from './verify-length.ts';
import { verifyMap } from './verify-map.ts';
import { verifyNoteEnds } from './verify-note-ends.ts';
import { verifyNotes } from './verify-notes.ts';
import { verifyTexts } from './verify-texts.ts';
import { verifyTimecode } from './verify-timecode.ts';
import { verifyWords } from './verify-words.ts';

/** Differences that are named; more say no more. */
const maxNamed = 20;

/**
 * Holds what leaves against the song it is a part of, event for event, under the settings alone: by an
 * independent model of what is heard (what each channel has in force at each note) and of what is read
 * (texts, map, lengths). Gives what the settings do not explain, with its place; nothing, unless this
 * program errs. Shares no code with what makes files: decision 26.
 *
 * @param song what the part is of, as it is sent @param leaving the part before it is laid out in a file
 */
export function verifyPart(song: Song, part: Part, wanted: Wanted, leaving: Song): string[] {
  const span = findSpan(song, part, wanted);
  const places = placesOf(song, span, wanted, readSongMap(leaving).lastTick);
  const of: PartCase = { song, part, wanted, leaving, places };
  return [
    ...verifyDivision(of),
    ...verifyNotes(of),
    ...verifyNoteEnds(of),
    ...verifyChannels(of),
    ...verifyTexts(of),
    ...verifyWords(of),
    ...verifyMap(of),
    ...verifyTimecode(of),
    ...verifyLength(of),
  ]
    .slice(0, maxNamed)
    .map((d) => describe(leaving, d));
}

/** Ticks are what they were, unless another resolution was asked for. */
function verifyDivision({ song, leaving, wanted }: PartCase): Difference[] {
  const words = ({ division: d }: Song): string =>
    d.kind === 'ppq' ? `${d.ticksPerQuarter}` : `${d.framesPerSecond} × ${d.ticksPerFrame}`;
  const expected = wanted.form.ppq === null ? words(song) : `${wanted.form.ppq}`;
  if (words(leaving) === expected) return [];
  const what = `resolution ${words(leaving)} instead of ${expected}`;
  return [{ state: 'has', owner: 'song', what, tick: 0 }];
}

/** "track 2 lacks note 60 … at bar 3.1.0 (tick 768)": bars of the file. */
function describe(leaving: Song, { state, owner, what, tick }: Difference): string {
  const bars = meterMap(readSongMap(leaving).meters, leaving.division);
  const at = Math.max(0, Math.round(tick));
  const { bar, beat, tick: rest } = positionAt(bars, at);
  const place = leaving.tracks.findIndex((t) => t.id === owner);
  const who = owner === 'song' ? 'the file' : place < 0 ? `track ${owner}` : `track ${place + 1}`;
  return `${who} ${state} ${what} at bar ${bar}.${beat}.${rest} (tick ${at})`;
}
