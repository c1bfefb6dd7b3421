import { META, endTick, meta, payloadOf, type Events } from '../smf/events.ts';
import { decodeText } from '../smf/text.ts';
import { shownText, type Song } from '../song/song.ts';

/** The song's musical facts, read from the meta events of all its tracks, in tick order. */
export interface Timing {
  readonly tempos: readonly TempoPoint[];
  readonly meters: readonly Meter[];
  readonly keys: readonly KeyPoint[];
  readonly markers: readonly Mark[];
  readonly cuePoints: readonly Mark[];
  readonly smpteOffset?: SmpteOffset;
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

export interface Mark {
  readonly atTick: number;
  readonly text: string;
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
  marks: { type: number; atTick: number; bytes: Uint8Array }[];
  smpteOffset?: SmpteOffset;
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
  const marks = (type: number): Mark[] =>
    byTick(facts.map((f) => f.marks.filter((m) => m.type === type))).map(({ atTick, bytes }) => ({ atTick, text: shownText(decodeText(bytes, song.encoding)) }));
  const offset = facts.find((f) => f.smpteOffset)?.smpteOffset;
  return {
    tempos: byTick(facts.map((f) => f.tempos)),
    meters: byTick(facts.map((f) => f.meters)),
    keys: byTick(facts.map((f) => f.keys)),
    markers: marks(meta.marker),
    cuePoints: marks(meta.cuePoint),
    endTick: song.tracks.reduce((latest, t) => Math.max(latest, endTick(t.events)), 0),
    ...(offset ? { smpteOffset: offset } : {}),
  };
}

function trackFacts(events: Events): TrackFacts {
  const known = factsOfTrack.get(events);
  if (known) return known;
  const facts: TrackFacts = { tempos: [], meters: [], keys: [], marks: [] };
  const { status, count } = events;
  for (let i = 0; i < count; i++) if (status[i] === META) note(facts, events.data1[i]!, events.atTick[i]!, payloadOf(events, i));
  factsOfTrack.set(events, facts);
  return facts;
}

/** Payloads of the wrong length, a tempo of 0 and meters that give no bar have no effect; the events stay in their track. */
function note(facts: TrackFacts, type: number, atTick: number, b: Uint8Array): void {
  if (type === meta.tempo && b.length === 3) {
    const tempo = (b[0]! << 16) | (b[1]! << 8) | b[2]!;
    if (tempo > 0) facts.tempos.push({ atTick, tempo });
  } else if (type === meta.timeSignature && b.length >= 2) {
    if (b[0]! > 0 && b[1]! <= 7) facts.meters.push({ atTick, numerator: b[0]!, denominator: 2 ** b[1]! });
  } else if (type === meta.keySignature && b.length === 2) {
    facts.keys.push({ atTick, sharps: (b[0]! << 24) >> 24, minor: b[1] === 1 });
  } else if (type === meta.marker || type === meta.cuePoint) {
    facts.marks.push({ type, atTick, bytes: b });
  } else if (type === meta.smpteOffset && b.length === 5 && !facts.smpteOffset) {
    const framesPerSecond = ([24, 25, 29, 30] as const)[(b[0]! >> 5) & 3]!;
    facts.smpteOffset = { framesPerSecond, hours: b[0]! & 0x1f, minutes: b[1]!, seconds: b[2]!, frames: b[3]!, hundredths: b[4]! };
  }
}
