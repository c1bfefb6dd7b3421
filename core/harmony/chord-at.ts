import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import type { Chord } from './chord.ts';
import { chordLineOf } from './chord-line.ts';
import { inForceAt } from './in-force.ts';
import { keyOfPoint, type Key } from './find-keys.ts';
import { harmonyOf } from './told.ts';

/** The chord at a tick: what the chord line says, else what is told from all that sounds. */
export function chordsOfSong(song: Song): (tick: number) => Chord | undefined {
  const line = chordLineOf(song).filter((c) => c.readable);
  return (tick) => {
    const said = inForceAt(line, tick);
    if (said && !said.ends) return said.chord;
    const told = inForceAt(harmonyOf(song).chords, tick);
    return told && told.toTick > tick ? told.chord : undefined;
  };
}

/** The key at a tick: what the song says of it, where that is more than nothing, else what is told. */
export function keysOfSong(song: Song): (tick: number) => Key {
  const { keys } = timingOf(song);
  // Files that know nothing of keys say C major at the beginning, if anything.
  const says = keys.some((k) => k.sharps !== 0 || k.minor || k.atTick > 0);
  return (tick) => {
    if (says) return keyOfPoint(inForceAt(keys, tick) ?? keys[0]!);
    const told = harmonyOf(song).keys;
    return (told.findLast((k) => k.fromTick <= tick) ?? told[0])?.key ?? { tonic: 0, minor: false };
  };
}
