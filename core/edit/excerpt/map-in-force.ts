import { eventAt, META, meta, type EventValue } from '../../smf/events.ts';
import { meantType, timecodeEvent } from '../../smf/own-events.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { chordLineEvent } from '../edit-marks.ts';
import { factsOf } from '../../song/track-facts.ts';
import { framesAt, offsetEvent } from '../../timing/start-timecode.ts';
import { tempoMap } from '../../timing/tempo-map.ts';
import { timecodeText } from '../../timing/timecode.ts';

const holding: ReadonlySet<number> = new Set([meta.tempo, meta.timeSignature, meta.keySignature]);

/**
 * The tempo, meter, key and chord in force at a tick, where none of the kind stands there, and its timecode: as
 * events at tick 0.
 */
export function mapInForce(song: Song, tick: number): EventValue[] {
  const last = new Map<number, EventValue>();
  for (const track of song.tracks) {
    if (!factsOf(track).timing) continue;
    const { events } = track;
    for (let i = 0; i < events.count && events.atTick[i]! <= tick; i++) {
      const type = events.data1[i]!;
      if (events.status[i] !== META || !holding.has(type)) continue;
      if (events.atTick[i]! >= (last.get(type)?.atTick ?? 0)) last.set(type, eventAt(events, i));
    }
  }
  return [
    ...[...last.values()]
      .filter(({ atTick }) => atTick < tick)
      .map((event) => ({ ...event, atTick: 0 })),
    ...chordAt(song, tick),
    ...timecodeAt(song, tick),
  ];
}

/** The chord of the chord line that goes on into a tick. */
function chordAt(song: Song, tick: number): EventValue[] {
  const chord = timingOf(song).chords.findLast((c) => c.atTick <= tick);
  return chord && chord.atTick < tick ? [chordLineEvent(chord, 0, song.encoding)] : [];
}

/** Whether a meta event states the timecode of a song, which is stated once. */
export const isTimecode = (track: Song['tracks'][number], row: number): boolean =>
  meantType(track.events, row) === meta.smpteOffset;

export function timecodeAt(song: Song, tick: number): EventValue[] {
  const { timecode, tempos } = timingOf(song);
  if (!timecode) return [];
  const frames = framesAt(timecode, tempoMap(tempos, song.division), tick);
  const { rate } = timecode;
  return [
    offsetEvent(rate, frames) ?? timecodeEvent(0, rate, timecodeText(Math.round(frames), rate)),
  ];
}
