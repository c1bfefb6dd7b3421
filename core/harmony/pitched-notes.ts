import { percussionChannel } from '../instruments/general-midi.ts';
import { keySwitchesOf } from '../instruments/key-switches.ts';
import { notesOf } from '../song/notes.ts';
import { firstProgram } from '../song/played-by.ts';
import type { Track } from '../song/song.ts';

/** Notes that have a pitch, of one track, in the order they begin. */
export interface PitchedNotes {
  readonly count: number;
  /** Ticks; `to` of a note that hangs is a quarter behind, of one of no length a tick. */
  readonly from: Float64Array;
  readonly to: Float64Array;
  readonly key: Uint8Array;
  /** Row of the note-on. */
  readonly row: Uint32Array;
}

/** From here on programs of General MIDI are struck wood, toms and noises (from 0). */
const firstNoise = 115;
const known = new WeakMap<Track, PitchedNotes>();

/** The notes of a track that are pitches: none of drums, of noises, and none that select how it plays. */
export function pitchedNotes(track: Track, hangs: number): PitchedNotes {
  const had = known.get(track);
  if (had) return had;
  const { events, instrument } = track;
  const notes = notesOf(events);
  const switches = keySwitchesOf(instrument);
  const noise = instrument?.drums === true || (firstProgram(events)?.program ?? 0) >= firstNoise;
  const from = new Float64Array(notes.count);
  const to = new Float64Array(notes.count);
  const key = new Uint8Array(notes.count);
  const row = new Uint32Array(notes.count);
  let count = 0;
  for (let n = 0; n < notes.count && !noise; n++) {
    const on = notes.on[n]!;
    if ((events.status[on]! & 15) === percussionChannel || switches.has(events.data1[on]!))
      continue;
    from[count] = events.atTick[on]!;
    const ends =
      notes.off[n] === -1 ? Math.round(from[count]! + hangs) : events.atTick[notes.off[n]!]!;
    to[count] = Math.max(from[count]! + 1, ends);
    key[count] = events.data1[on]!;
    row[count++] = on;
  }
  const made = {
    count,
    from: from.subarray(0, count),
    to: to.subarray(0, count),
    key: key.subarray(0, count),
    row: row.subarray(0, count),
  };
  known.set(track, made);
  return made;
}
