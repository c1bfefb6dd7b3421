import { parseMidi, type MidiEvent } from 'midi-file';
import { META, SYSEX, SYSEX_PACKET, payloadOf, type Events } from '#core/smf/events.ts';
import { readUint32 } from '#core/smf/chunks.ts';

/**
 * One event in a form that both our reader and the independent one (npm `midi-file` 1.2.4) can be brought to.
 * It is exact for channel messages, system exclusive, tempo, meter, key, text (as Latin-1 bytes) and unknown metas.
 */
export type Plain = string;

export interface PlainFile {
  readonly format: number;
  readonly division: number;
  readonly tracks: readonly (readonly Plain[])[];
}

const hex = (bytes: ArrayLike<number>): string =>
  Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('');
const latin1 = (text: string): string => hex(Array.from(text, (c) => c.charCodeAt(0)));

const textTypes: Record<string, number> = {
  text: 1,
  copyrightNotice: 2,
  trackName: 3,
  instrumentName: 4,
  lyrics: 5,
  marker: 6,
  cuePoint: 7,
};

function plainOf(e: MidiEvent): string {
  const c = (status: number, a: number, b?: number): string =>
    `${hex([status | (e as { channel: number }).channel, a])}${b === undefined ? '' : hex([b])}`;
  switch (e.type) {
    case 'noteOff':
      return (e as { byte9?: boolean }).byte9
        ? c(0x90, e.noteNumber, e.velocity)
        : c(0x80, e.noteNumber, e.velocity);
    case 'noteOn':
      return c(0x90, e.noteNumber, e.velocity);
    case 'noteAftertouch':
      return c(0xa0, e.noteNumber, e.amount);
    case 'controller':
      return c(0xb0, e.controllerType, e.value);
    case 'programChange':
      return c(0xc0, e.programNumber);
    case 'channelAftertouch':
      return c(0xd0, e.amount);
    case 'pitchBend':
      return c(0xe0, (e.value + 8192) & 127, (e.value + 8192) >> 7);
    case 'sysEx':
      return `f0 ${hex(e.data as unknown as ArrayLike<number>)}`;
    case 'endSysEx':
      return `f7 ${hex(e.data as unknown as ArrayLike<number>)}`;
    case 'endOfTrack':
      return 'ff2f';
    case 'setTempo':
      return `ff51 ${e.microsecondsPerBeat}`;
    case 'timeSignature':
      return `ff58 ${e.numerator} ${e.denominator} ${e.metronome} ${e.thirtyseconds}`;
    case 'keySignature':
      return `ff59 ${e.key} ${e.scale}`;
    case 'sequencerSpecific':
      return `ff7f ${hex(e.data as unknown as ArrayLike<number>)}`;
    case 'unknownMeta':
      return `ff${hex([e.metatypeByte])} ${hex(e.data as unknown as ArrayLike<number>)}`;
    case 'channelPrefix':
      return `ff20 ${e.channel}`;
    case 'portPrefix':
      return `ff21 ${e.port}`;
    case 'sequenceNumber':
      return `ff00 ${e.number}`;
    case 'smpteOffset':
      return `ff54 ${e.frameRate} ${e.hour} ${e.min} ${e.sec} ${e.frame} ${e.subFrame}`;
    default:
      return `ff${hex([textTypes[e.type] ?? 0xee])} ${latin1((e as { text: string }).text)}`;
  }
}

/** A file as the independent reader sees it: "tick event" lines, track by track. */
export function readIndependently(file: Uint8Array): PlainFile {
  const parsed = parseMidi(file);
  const { header } = parsed;
  return {
    format: header.format,
    division: header.ticksPerBeat ?? -1,
    tracks: parsed.tracks.map((events) => {
      let tick = 0;
      return events.map((e) => `${(tick += e.deltaTime)} ${plainOf(e)}`);
    }),
  };
}

function plainMeta(type: number, payload: Uint8Array): string {
  const [a = 0, b = 0, c = 0, d = 0, f = 0] = payload;
  switch (type) {
    case 0x2f:
      return 'ff2f';
    case 0x51:
      return `ff51 ${(a << 16) | (b << 8) | c}`;
    case 0x58:
      return `ff58 ${a} ${2 ** b} ${c} ${d}`;
    case 0x59:
      return `ff59 ${(a << 24) >> 24} ${b}`;
    case 0x20:
      return `ff20 ${a}`;
    case 0x21:
      return `ff21 ${a}`;
    case 0x00:
      return `ff00 ${(a << 8) | b}`;
    case 0x54:
      return `ff54 ${[24, 25, 29, 30][(a >> 5) & 3]} ${a & 0x1f} ${b} ${c} ${d} ${f}`;
    default:
      return `ff${hex([type])} ${hex(payload)}`;
  }
}

/** Our own reading in the same form. */
export function plainEvents(events: Events): Plain[] {
  return Array.from({ length: events.count }, (_, i) => {
    const status = events.status[i]!;
    const at = `${events.atTick[i]} `;
    if (status === META) return at + plainMeta(events.data1[i]!, payloadOf(events, i));
    if (status === SYSEX || status === SYSEX_PACKET)
      return `${at}${hex([status])} ${hex(payloadOf(events, i))}`;
    const kind = status & 0xf0;
    return (
      at +
      hex(
        kind === 0xc0 || kind === 0xd0
          ? [status, events.data1[i]!]
          : [status, events.data1[i]!, events.data2[i]!],
      )
    );
  });
}

export const headerLength = (file: Uint8Array): number => readUint32(file, 4);
