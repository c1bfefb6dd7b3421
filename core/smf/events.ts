/**
 * The events of one track as parallel columns, in file order. A million events are ordinary,
 * so there is no object per event: 15 bytes each, payloads of meta and system exclusive events apart.
 */
export interface Events {
  readonly count: number;
  /** Absolute ticks from the start of the file. Float64 because damaged files run past 2³². */
  readonly atTick: Float64Array;
  /** 0x80–0xEF channel messages, 0xF0 and 0xF7 system exclusive, 0xFF meta events. */
  readonly status: Uint8Array;
  /** First data byte; the type of a meta event; 0 for system exclusive. */
  readonly data1: Uint8Array;
  /** Second data byte; 0 where the message has one or none. */
  readonly data2: Uint8Array;
  /** Which payload of the pool belongs to the event; 0 is the empty one. */
  readonly payload: Uint32Array;
  readonly pool: PayloadPool;
}

/** Payload n is `bytes[start[n]] … bytes[end[n] - 1]`; payload 0 is empty. */
export interface PayloadPool {
  readonly bytes: Uint8Array;
  readonly start: Uint32Array;
  readonly end: Uint32Array;
}

/** One event as a value: for edits, listings and tests, never on a hot path. */
export interface EventValue {
  readonly atTick: number;
  readonly status: number;
  readonly data1: number;
  readonly data2: number;
  readonly payload: Uint8Array;
}

export const noBytes = new Uint8Array(0);

export const META = 0xff;
export const SYSEX = 0xf0;
export const SYSEX_PACKET = 0xf7;

/** Meta event types of SMF 1.0; 0x21 is common practice. */
export const meta = {
  sequenceNumber: 0x00,
  text: 0x01,
  copyright: 0x02,
  trackName: 0x03,
  instrumentName: 0x04,
  lyric: 0x05,
  marker: 0x06,
  cuePoint: 0x07,
  programName: 0x08,
  deviceName: 0x09,
  channelPrefix: 0x20,
  port: 0x21,
  endOfTrack: 0x2f,
  tempo: 0x51,
  smpteOffset: 0x54,
  timeSignature: 0x58,
  keySignature: 0x59,
  sequencerSpecific: 0x7f,
} as const;

/** The meta events that belong to the song and not to one part: they travel in the first track (SMF 1.0). */
export const timingMetas: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.smpteOffset,
  meta.timeSignature,
]);

export const isMeta = (events: Events, index: number, type: number): boolean =>
  events.status[index] === META && events.data1[index] === type;

export const isChannelMessage = (status: number): boolean => status < 0xf0;

/** Payload of event `index`, as a view that must not be written to. */
export function payloadOf(events: Events, index: number): Uint8Array {
  const n = events.payload[index]!;
  return n === 0 ? noBytes : events.pool.bytes.subarray(events.pool.start[n], events.pool.end[n]);
}

export function eventAt(events: Events, index: number): EventValue {
  return {
    atTick: events.atTick[index]!,
    status: events.status[index]!,
    data1: events.data1[index]!,
    data2: events.data2[index]!,
    payload: payloadOf(events, index),
  };
}

/** All events as values, in order. */
export const eventValues = (events: Events): EventValue[] =>
  Array.from({ length: events.count }, (_, i) => eventAt(events, i));

export const metaEvent = (
  atTick: number,
  type: number,
  payload: Uint8Array = noBytes,
): EventValue => ({ atTick, status: META, data1: type, data2: 0, payload });

export const channelEvent = (
  atTick: number,
  status: number,
  data1: number,
  data2 = 0,
): EventValue => ({ atTick, status, data1, data2, payload: noBytes });

/** Tick of the end of track, which is always the last event. */
export const endTick = (events: Events): number => events.atTick[events.count - 1] ?? 0;
