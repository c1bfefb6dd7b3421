import { META, endTick, meta, noBytes, payloadOf, type Events } from '../smf/events.ts';
import { mendedPayload } from '../smf/meta-lengths.ts';
import { decodeText } from '../smf/text.ts';
import { statedTimecode, stays } from '../song/own-events.ts';
import { shownText, type Song } from '../song/song.ts';
import { pairSections, type Section } from './sections.ts';
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

interface TrackFacts {
  tempos: TempoPoint[];
  meters: Meter[];
  keys: KeyPoint[];
  marks: { type: number; atTick: number; bytes: Uint8Array; travels: boolean }[];
  smpteOffset?: SmpteOffset;
  timecode?: StatedTimecode;
}

const factsOfTrack = new WeakMap<Events, TrackFacts>();
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
  const facts = song.tracks.map((t) => trackFacts(t.events));
  const byTick = <T extends { atTick: number }>(lists: T[][]): T[] => lists.flat().sort((a, b) => a.atTick - b.atTick);
  const marks = (kind: MarkKind): Mark[] =>
    byTick(
      facts.map((f, i) =>
        f.marks
          .filter((m) => m.type === markKinds[kind])
          .map(({ atTick, bytes, travels }) => ({ atTick, ...textsOf(decodeText(bytes, song.encoding)), kind, track: song.tracks[i]!.id, travels })),
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
    endTick: song.tracks.reduce((latest, t) => Math.max(latest, endTick(t.events)), 0),
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

function trackFacts(events: Events): TrackFacts {
  const known = factsOfTrack.get(events);
  if (known) return known;
  const facts: TrackFacts = { tempos: [], meters: [], keys: [], marks: [] };
  const { status, count } = events;
  for (let i = 0; i < count; i++) {
    if (status[i] !== META) continue;
    if (events.data1[i] === meta.sequencerSpecific) noteOwn(facts, events, i);
    else note(facts, events.data1[i]!, events.atTick[i]!, payloadOf(events, i));
  }
  factsOfTrack.set(events, facts);
  return facts;
}

/** Payloads of the wrong length count as they are sent; those that say nothing, a tempo of 0 and meters that give no bar have no effect; the events stay in their track. */
function note(facts: TrackFacts, type: number, atTick: number, payload: Uint8Array): void {
  const b = mendedPayload(type, payload) ?? noBytes;
  if (type === meta.tempo && b.length === 3) {
    const tempo = (b[0]! << 16) | (b[1]! << 8) | b[2]!;
    if (tempo > 0) facts.tempos.push({ atTick, tempo });
  } else if (type === meta.timeSignature && b.length >= 2) {
    if (b[0]! > 0 && b[1]! <= 7) facts.meters.push({ atTick, numerator: b[0]!, denominator: 2 ** b[1]! });
  } else if (type === meta.keySignature && b.length === 2) {
    facts.keys.push({ atTick, sharps: (b[0]! << 24) >> 24, minor: b[1] === 1 });
  } else if (type === meta.marker || type === meta.cuePoint || type === meta.text) {
    facts.marks.push({ type, atTick, bytes: b, travels: true });
  } else if (type === meta.smpteOffset && b.length === 5 && !facts.smpteOffset) {
    const framesPerSecond = ([24, 25, 29, 30] as const)[(b[0]! >> 5) & 3]!;
    facts.smpteOffset = { framesPerSecond, hours: b[0]! & 0x1f, minutes: b[1]!, seconds: b[2]!, frames: b[3]!, hundredths: b[4]! };
  }
}

/** What our own events say, see `own-events.ts`. */
function noteOwn(facts: TrackFacts, events: Events, i: number): void {
  const atTick = events.atTick[i]!;
  const kept = stays(events, i);
  if (kept) facts.marks.push({ type: kept.type, atTick, bytes: kept.text, travels: false });
  const said = facts.timecode ? undefined : statedTimecode(payloadOf(events, i));
  if (!said || !Object.hasOwn(frameRates, said.rate)) return;
  const rate = said.rate as FrameRate;
  const frames = parseTimecode(said.address, rate);
  if (frames !== undefined) facts.timecode = { atTick, rate, frames };
}
