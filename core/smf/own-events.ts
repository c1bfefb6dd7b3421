import { META, meta, metaEvent, payloadOf, type Events, type EventValue } from './events.ts';
import { decodeText, encodeText } from './text.ts';

/**
 * What the format has no event for stands among the events all the same, so that it moves with them:
 * sequencer-specific metas (SMF 1.0) under the identifier for uses without a maker (7D, MIDI 1.0), then
 * words that anybody can read in a dump.
 *
 * - `satchel stays` + a meta type + its text: a marker that is kept and not sent.
 * - `satchel timed` + seconds from the song's beginning: the mark behind it belongs to that time, not to its bar.
 * - `satchel timecode` + frame rate, `|` and address: what bar begins at which timecode, where the SMPTE
 *   offset cannot say it.
 */
const nonCommercial = 0x7d;
const staysWord = encodeText('satchel stays ');
const timedWord = encodeText('satchel timed ');
const timecodeWord = encodeText('satchel timecode ');

function saidBehind(payload: Uint8Array, word: Uint8Array): Uint8Array | undefined {
  if (payload.length <= word.length + 1 || payload[0] !== nonCommercial) return undefined;
  for (let i = 0; i < word.length; i++) if (payload[i + 1] !== word[i]) return undefined;
  return payload.subarray(word.length + 1);
}

const ownPayload = (word: Uint8Array, said: Uint8Array): Uint8Array =>
  Uint8Array.of(nonCommercial, ...word, ...said);

/** The marker, cue point or text that an event is kept as and not sent; undefined where it is none. */
export function stays(events: Events, i: number): { type: number; text: Uint8Array } | undefined {
  if (events.status[i] !== META || events.data1[i] !== meta.sequencerSpecific) return undefined;
  return staysIn(payloadOf(events, i));
}

/** The same of an event that stands by itself. */
export const keptText = ({ status, data1, payload }: EventValue): ReturnType<typeof stays> =>
  status === META && data1 === meta.sequencerSpecific ? staysIn(payload) : undefined;

function staysIn(payload: Uint8Array): ReturnType<typeof stays> {
  const said = saidBehind(payload, staysWord);
  return said && { type: said[0]!, text: said.subarray(1) };
}

export const staysEvent = (atTick: number, type: number, text: Uint8Array): EventValue =>
  metaEvent(atTick, meta.sequencerSpecific, ownPayload(staysWord, Uint8Array.of(type, ...text)));

export const timedEvent = (atTick: number, seconds: number): EventValue =>
  metaEvent(atTick, meta.sequencerSpecific, ownPayload(timedWord, encodeText(String(seconds))));

/** Whether an event says that the mark behind it belongs to its time. */
export const isTimed = (events: Events, i: number): boolean =>
  events.status[i] === META &&
  events.data1[i] === meta.sequencerSpecific &&
  saidBehind(payloadOf(events, i), timedWord) !== undefined;

/** The seconds from the beginning that a mark belongs to; undefined where it belongs to its bar. */
export function secondsOfMark(events: Events, i: number): number | undefined {
  if (
    i === 0 ||
    i >= events.count ||
    events.atTick[i - 1] !== events.atTick[i] ||
    !isTimed(events, i - 1)
  )
    return undefined;
  const seconds = Number(decodeText(saidBehind(payloadOf(events, i - 1), timedWord)!));
  return Number.isFinite(seconds) && seconds >= 0 ? seconds : undefined;
}

/** Frame rate and address that an event states for its tick. */
export function statedTimecode(payload: Uint8Array): { rate: string; address: string } | undefined {
  const said = saidBehind(payload, timecodeWord);
  const [rate, address] = said ? decodeText(said).split('|') : [];
  return rate && address ? { rate, address } : undefined;
}

export const timecodeEvent = (atTick: number, rate: string, address: string): EventValue =>
  metaEvent(
    atTick,
    meta.sequencerSpecific,
    ownPayload(timecodeWord, encodeText(`${rate}|${address}`)),
  );

/**
 * Type of a meta event by what it means: events of our own count as what they stand for, and what makes a mark
 * belong to time as that mark.
 */
export function meantType(events: Events, i: number): number {
  const type = events.data1[i]!;
  if (type !== meta.sequencerSpecific) return type;
  if (isTimed(events, i) && secondsOfMark(events, i + 1) !== undefined && !isTimed(events, i + 1))
    return meantType(events, i + 1);
  return stays(events, i)?.type ?? (statedTimecode(payloadOf(events, i)) ? meta.smpteOffset : type);
}

const chordWord = encodeText('chord:');

/**
 * Whether an event is a chord of the chord line, sent or kept: a text that begins with the word `chord:`,
 * which belongs to the bars and to the whole song.
 */
export function isChordEvent(events: Events, i: number): boolean {
  if (events.status[i] !== META || meantType(events, i) !== meta.text) return false;
  const said = stays(events, i)?.text ?? payloadOf(events, i);
  // Upper or lower case: letters of ASCII differ in one bit.
  return (
    said.length >= chordWord.length &&
    chordWord.every((byte, n) => (said[n]! | 0x20) === (byte | 0x20))
  );
}
