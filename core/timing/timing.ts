import { meta } from '../smf/events.ts';
import { decodeText } from '../smf/text.ts';
import { shownText, type Song } from '../song/song.ts';
import { factsOf } from '../song/track-facts.ts';
import { fromHex } from '../units/hex.ts';
import { pairSections, type Section } from './sections.ts';
import { noTiming } from './timing-facts.ts';
import { frameRates, parseTimecode, type FrameRate } from './timecode.ts';

/** The song's musical facts, read from the meta events of all its tracks, in tick order. */
export interface Timing {
  readonly tempos: readonly TempoPoint[];
  readonly meters: readonly Meter[];
  readonly keys: readonly KeyPoint[];
  /** Markers but those that begin and end sections. */
  readonly markers: readonly Mark[];
  readonly cuePoints: readonly Mark[];
  readonly texts: readonly Mark[];
  readonly sections: readonly Section[];
  readonly smpteOffset?: SmpteOffset;
  readonly timecode?: StatedTimecode;
  /** Latest end of track. */
  readonly endTick: number;
}

export interface TempoPoint {
  readonly atTick: number;
  /** Microseconds per quarter, exactly as the file has it. */
  readonly tempo: number;
}

export interface Meter {
  readonly atTick: number;
  readonly numerator: number;
  readonly denominator: number;
}

export interface KeyPoint {
  readonly atTick: number;
  /** Sharps positive, flats negative. */
  readonly sharps: number;
  readonly minor: boolean;
}

export const markKinds = { marker: meta.marker, 'cue point': meta.cuePoint, text: meta.text } as const;
export type MarkKind = keyof typeof markKinds;

export interface Mark {
  readonly atTick: number;
  /** On one line, as it is shown. */
  readonly text: string;
  /** With its blanks and lines, where it has such at its ends or in it. */
  readonly whole?: string;
  readonly kind: MarkKind;
  /** Id of the track it stands in. */
  readonly track: string;
  /** It is sent; else it is kept here only. */
  readonly travels: boolean;
}

/** The timecode at a tick: bar 1 where the SMPTE offset says it. */
export interface StatedTimecode {
  readonly atTick: number;
  readonly rate: FrameRate;
  /** Frames from 00:00:00:00; the SMPTE offset can state hundredths. */
  readonly frames: number;
}

export interface SmpteOffset {
  readonly framesPerSecond: 24 | 25 | 29 | 30;
  readonly hours: number;
  readonly minutes: number;
  readonly seconds: number;
  readonly frames: number;
  readonly hundredths: number;
}

const timingOfSong = new WeakMap<Song, Timing>();

/** Timing of a song; each track is looked through once, whatever songs share it. */
export function timingOf(song: Song): Timing {
  const known = timingOfSong.get(song);
  if (known) return known;
  const timing = gather(song);
  timingOfSong.set(song, timing);
  return timing;
}

function gather(song: Song): Timing {
  const facts = song.tracks.map((t) => factsOf(t).timing ?? noTiming);
  const byTick = <T extends { atTick: number }>(lists: (readonly T[])[]): T[] => lists.flat().sort((a, b) => a.atTick - b.atTick);
  const marks = (kind: MarkKind): Mark[] =>
    byTick(
      facts.map((f, i) =>
        f.marks
          .filter((m) => m.type === markKinds[kind])
          .map(({ atTick, said, travels }) => ({ atTick, ...textsOf(decodeText(fromHex(said), song.encoding)), kind, track: song.tracks[i]!.id, travels })),
      ),
    );
  const smpteOffset = facts.find((f) => f.smpteOffset)?.smpteOffset;
  const timecode = facts.find((f) => f.timecode)?.timecode ?? (smpteOffset && timecodeOf(smpteOffset));
  const { sections, rest } = pairSections(marks('marker'));
  return {
    tempos: byTick(facts.map((f) => f.tempos)),
    meters: byTick(facts.map((f) => f.meters)),
    keys: byTick(facts.map((f) => f.keys)),
    markers: rest,
    cuePoints: marks('cue point'),
    texts: marks('text'),
    sections,
    endTick: song.tracks.reduce((latest, t) => Math.max(latest, factsOf(t).endTick), 0),
    ...(smpteOffset ? { smpteOffset } : {}),
    ...(timecode ? { timecode } : {}),
  };
}

/** Texts up to so many letters keep their blanks and lines in lists. */
const longestWhole = 200;

function textsOf(said: string): { text: string; whole?: string } {
  const text = shownText(said);
  return said === text || said.length > longestWhole ? { text } : { text, whole: said };
}

/** The rates of the SMPTE offset's two bits (SMF 1.0): 29 stands for 30 drop-frame. */
export const offsetRates = { 24: '24', 25: '25', 29: '29.97 drop', 30: '30' } as const satisfies Record<SmpteOffset['framesPerSecond'], FrameRate>;

/** An offset beyond what an address can say (minute 60, or drop-frame numbers that are left out) counts on plainly. */
function timecodeOf({ framesPerSecond, hours, minutes, seconds, frames, hundredths }: SmpteOffset): StatedTimecode {
  const rate = offsetRates[framesPerSecond];
  const whole = parseTimecode(`${hours}:${minutes}:${seconds}:${frames}`, rate) ?? ((hours * 60 + minutes) * 60 + seconds) * frameRates[rate].count + frames;
  return { atTick: 0, rate, frames: whole + Math.min(99, hundredths) / 100 };
}

