import { ticksPerSecond } from '../../../smf/division.ts';
import type { Song } from '../../../song/song.ts';
import type { TickSpan } from '../../../song/scope.ts';
import { tempoMap, ticksToSeconds, type TempoMap } from '../../../timing/tempo-map.ts';
import { readSongMap } from '../../proof/reading/song-map.ts';
import { bit } from './outcome.ts';

/** Where things of the song are in a file, in its bars and in time. */
export interface Displaced {
  /** How many milliseconds it is off at most, by what the bits say: rounding, places or time. */
  readonly worst: { rounding: number; places: number; time: number };
  /** Ways in which what stands at a tick of the song, and at a place of the file, is displaced. */
  bits(tick: number, place: number): number;
}

/** Less than this is no difference to anybody, in seconds. */
const nothing = 0.00005;
/** Parts of a tick that are lost in arithmetic. */
const aHair = 1e-6;

/** Quarter notes a tick; ticks of frames stand for those of 120 BPM. */
const quartersATick = ({ division }: Song): number =>
  division.kind === 'ppq' ? 1 / division.ticksPerQuarter : 2 / ticksPerSecond(division);

/** @param arrived the tempos that the receiver plays the file by */
export function displacedIn(song: Song, span: TickSpan, file: Song, arrived: TempoMap): Displaced {
  const here = tempoMap(readSongMap(song).tempos, song.division);
  const began = ticksToSeconds(here, span.from);
  const [quarterHere, quarterThere] = [quartersATick(song), quartersATick(file)];
  const worst = { rounding: 0, places: 0, time: 0 };
  const bits = (tick: number, place: number): number => {
    const exact = ((tick - span.from) * quarterHere) / quarterThere;
    const ticksOff = Math.abs(place - exact);
    const sounds = ticksToSeconds(arrived, place);
    const off = Math.abs(sounds - (ticksToSeconds(here, tick) - began));
    let found = 0;
    if (ticksOff > 1 + aHair) {
      found |= bit.places;
      worst.places = Math.max(worst.places, off);
    } else if (ticksOff > aHair) {
      found |= bit.rounding;
      worst.rounding = Math.max(worst.rounding, off);
    }
    // What its place in the bars explains is no difference of the tempos.
    const inBars = ticksToSeconds(here, span.from + (place * quarterThere) / quarterHere) - began;
    const byTempo = Math.min(off, Math.abs(sounds - inBars));
    // What was placed on the nearest tick may be off by what that is, and is told as that.
    const rounded = ticksOff > aHair ? ticksToSeconds(arrived, place + 1) - sounds : 0;
    if (byTempo > nothing + rounded) {
      found |= bit.time;
      worst.time = Math.max(worst.time, byTempo);
    }
    return found;
  };
  return { worst, bits };
}
