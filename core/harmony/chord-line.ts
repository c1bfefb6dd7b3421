import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { chordIn } from '../timing/chord-texts.ts';
import type { Chord } from './chord.ts';
import { lineEnd, readChord } from './read-chord.ts';

/** A chord of the chord line; `chord` is undefined where none is to sound, `readable` false where it is no chord. */
export interface LineChord {
  readonly atTick: number;
  readonly text: string;
  readonly chord: Chord | undefined;
  readonly readable: boolean;
  /** The line ends there, until it says a chord again. */
  readonly ends: boolean;
  readonly travels: boolean;
}

/** The song's chord line in tick order; where several stand on a tick the last counts. */
export function chordLineOf(song: Song): LineChord[] {
  const line: LineChord[] = [];
  for (const { atTick, text, travels } of timingOf(song).chords) {
    const said = chordIn(text)!;
    const read = readChord(said);
    const point = {
      atTick,
      text: read?.text === lineEnd ? lineEnd : said,
      chord: read?.chord,
      readable: read !== undefined,
      ends: read?.text === lineEnd,
      travels,
    };
    if (line.at(-1)?.atTick === atTick) line[line.length - 1] = point;
    else line.push(point);
  }
  return line;
}
