import { META, meta, noBytes, payloadOf, type Events } from '../smf/events.ts';
import { mendedPayload } from '../smf/meta-lengths.ts';
import { isTimed, meantType, secondsOfMark, statedTimecode, stays } from '../smf/own-events.ts';
import { toHex } from '../units/hex.ts';
import { markKinds } from './marks.ts';
import { frameRates, parseTimecode, type FrameRate } from './timecode.ts';
import type { KeyPoint, Meter, SmpteOffset, StatedTimecode, TempoPoint } from './timing.ts';

/** What one track says of its song's time, in its own order; plain JSON. */
export interface TimingFacts {
  readonly tempos: readonly TempoPoint[];
  readonly meters: readonly Meter[];
  readonly keys: readonly KeyPoint[];
  /**
   * Markers, cue points and texts: meta type, and what is said as hexadecimal bytes, since how texts are
   * read is the song's.
   */
  readonly marks: readonly {
    readonly type: number;
    readonly atTick: number;
    readonly said: string;
    readonly travels: boolean;
    readonly seconds?: number;
  }[];
  readonly smpteOffset?: SmpteOffset;
  readonly timecode?: StatedTimecode;
  /** Copyright notices as hexadecimal bytes, the first of them. */
  readonly copyright?: readonly string[];
  /** Some of its marks are said to belong to time. */
  readonly anchors?: boolean;
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends readonly (infer E)[] ? E[] : T[K] };

/** The timing facts of a track; undefined where it says nothing of the kind, as most parts do. */
export function timingFacts(events: Events): TimingFacts | undefined {
  const facts: Mutable<TimingFacts> = { tempos: [], meters: [], keys: [], marks: [] };
  const { status, count } = events;
  for (let i = 0; i < count; i++) {
    if (status[i] !== META) continue;
    if (events.data1[i] === meta.sequencerSpecific) noteOwn(facts, events, i);
    else note(facts, events.data1[i]!, events.atTick[i]!, payloadOf(events, i));
    withSeconds(facts, events, i);
  }
  const { tempos, meters, keys, marks, smpteOffset, timecode, anchors, copyright } = facts;
  const lists = tempos.length + meters.length + keys.length + marks.length;
  return lists > 0 || smpteOffset || timecode || anchors || copyright ? facts : undefined;
}

/** The mark that a row said, if it did, with the time that it belongs to. */
function withSeconds(facts: Mutable<TimingFacts>, events: Events, i: number): void {
  const seconds = i > 0 ? secondsOfMark(events, i) : undefined;
  const last = facts.marks.at(-1);
  const isMark = markTypes.has(meantType(events, i));
  if (seconds !== undefined && last && isMark)
    facts.marks[facts.marks.length - 1] = { ...last, seconds };
}
const markTypes: ReadonlySet<number> = new Set(Object.values(markKinds));

/**
 * Payloads of the wrong length count as they are sent; those that say nothing, a tempo of 0 and meters that
 * give no bar have no effect; the events stay in their track.
 */
function note(
  facts: Mutable<TimingFacts>,
  type: number,
  atTick: number,
  payload: Uint8Array,
): void {
  const b = mendedPayload(type, payload) ?? noBytes;
  if (type === meta.tempo && b.length === 3) {
    const tempo = (b[0]! << 16) | (b[1]! << 8) | b[2]!;
    if (tempo > 0) facts.tempos.push({ atTick, tempo });
  } else if (type === meta.timeSignature && b.length >= 2) {
    if (b[0]! > 0 && b[1]! <= 7)
      facts.meters.push({ atTick, numerator: b[0]!, denominator: 2 ** b[1]!, ...clickOf(b) });
  } else if (type === meta.copyright && (facts.copyright?.length ?? 0) < maxNotices) {
    facts.copyright = [...(facts.copyright ?? []), toHex(b.subarray(0, maxNoticeBytes))];
  } else if (type === meta.keySignature && b.length === 2) {
    facts.keys.push({ atTick, sharps: (b[0]! << 24) >> 24, minor: b[1] === 1 });
  } else if (type === meta.marker || type === meta.cuePoint || type === meta.text) {
    facts.marks.push({ type, atTick, said: toHex(b), travels: true });
  } else if (type === meta.smpteOffset && b.length === 5 && !facts.smpteOffset) {
    const framesPerSecond = ([24, 25, 29, 30] as const)[(b[0]! >> 5) & 3]!;
    facts.smpteOffset = {
      framesPerSecond,
      hours: b[0]! & 0x1f,
      minutes: b[1]!,
      seconds: b[2]!,
      frames: b[3]!,
      hundredths: b[4]!,
    };
  }
}

/** A hostile file must not make facts endless. */
const maxNotices = 20;
const maxNoticeBytes = 500;

/** What a meter says of its click, where that is not what is usual: a quarter, its beat, or three eighths. */
function clickOf(b: Uint8Array): Pick<Meter, 'click'> {
  const [numerator, power, clocks, thirtySeconds] = b;
  if (clocks === undefined || thirtySeconds === undefined) return {};
  const usual = [24, 96 / 2 ** power!, ...(power === 3 && numerator! % 3 === 0 ? [36] : [])];
  return usual.includes(clocks) && thirtySeconds === 8 ? {} : { click: { clocks, thirtySeconds } };
}

/** What our own events say, see `own-events.ts`. */
function noteOwn(facts: Mutable<TimingFacts>, events: Events, i: number): void {
  const atTick = events.atTick[i]!;
  if (isTimed(events, i)) facts.anchors = true;
  const kept = stays(events, i);
  if (kept) facts.marks.push({ type: kept.type, atTick, said: toHex(kept.text), travels: false });
  const said = facts.timecode ? undefined : statedTimecode(payloadOf(events, i));
  if (!said || !Object.hasOwn(frameRates, said.rate)) return;
  const rate = said.rate as FrameRate;
  const frames = parseTimecode(said.address, rate);
  if (frames !== undefined) facts.timecode = { atTick, rate, frames };
}
