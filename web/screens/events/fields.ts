import { META, SYSEX, meta, payloadOf, type Events } from '#core/smf/events.ts';
import { decodeText, type TextEncodingName } from '#core/smf/text.ts';
import { encodeFor } from '#core/smf/text-encode.ts';
import { notesOf } from '#core/song/notes.ts';
import {
  bpmToTempo,
  fastestBpm,
  keyName,
  parseKeyName,
  slowestBpm,
  tempoToBpm,
} from '#core/units/units.ts';

/** Kinds of event that can be put in by hand, with the message they become. */
export const insertable = {
  Note: [0x90, 0],
  Controller: [0xb0, 0],
  Program: [0xc0, 0],
  'Pitch bend': [0xe0, 0],
  'Channel pressure': [0xd0, 0],
  'Poly pressure': [0xa0, 0],
  Text: [META, meta.text],
  Lyric: [META, meta.lyric],
  Marker: [META, meta.marker],
  'Cue point': [META, meta.cuePoint],
  Tempo: [META, meta.tempo],
  Meter: [META, meta.timeSignature],
  'Key signature': [META, meta.keySignature],
  'System exclusive': [SYSEX, 0],
} as const satisfies Record<string, readonly [number, number]>;
export type Insertable = keyof typeof insertable;

/** One thing about an event that can be typed. */
export interface EventField {
  readonly name: string;
  readonly value: string;
  readonly min?: number;
  readonly max?: number;
  /** Numbers may have figures behind the point. */
  readonly fine?: boolean;
  readonly wide?: boolean;
  /** It is a key, and may be typed by its name. */
  readonly key?: boolean;
}

/** How texts are encoded and keys named. */
export interface Written {
  readonly encoding: TextEncodingName;
  readonly middleC: number;
}

/** What of an event is given on: the parts of `events.edit` and `events.insert` that are not its place. */
export interface EventParts {
  readonly data1?: number;
  readonly data2?: number;
  readonly length?: number;
  readonly payload?: number[];
}

const number = (name: string, value: number, min: number, max: number): EventField => ({
  name,
  value: String(value),
  min,
  max,
});
/** A key, written by its name. */
const keyField = (key: number, middleC: number): EventField => ({
  name: 'Key',
  value: keyName(key, middleC),
  min: 0,
  max: 127,
  key: true,
});
/** A key as it is typed: its number, or its name. */
export function keyTyped(text: string, middleC: number): number | undefined {
  if (/^ *\d+ *$/.test(text)) return Number(text) <= 127 ? Number(text) : undefined;
  return parseKeyName(text.trim(), middleC);
}
const hex = (bytes: Uint8Array): string =>
  Array.from(bytes, (b) => b.toString(16).padStart(2, '0').toUpperCase()).join(' ');
const texts: ReadonlySet<number> = new Set(Array.from({ length: 15 }, (_, i) => i + 1));

/** What can be typed about a message: its values by their names. `length` is that of a note, in ticks. */
export function fieldsOf(
  status: number,
  d1: number,
  d2: number,
  payload: Uint8Array,
  length: number | undefined,
  as: Written,
): EventField[] {
  switch (status >> 4) {
    case 0x8:
      return [keyField(d1, as.middleC), number('Release velocity', d2, 0, 127)];
    case 0x9:
      return [
        keyField(d1, as.middleC),
        number('Velocity', d2, d2 === 0 ? 0 : 1, 127),
        ...(length === undefined ? [] : [number('Length', length, 1, 1e9)]),
      ];
    case 0xa:
      return [keyField(d1, as.middleC), number('Pressure', d2, 0, 127)];
    case 0xb:
      return [number('Controller', d1, 0, 127), number('Value', d2, 0, 127)];
    case 0xc:
      return [number('Program', d1 + 1, 1, 128)];
    case 0xd:
      return [number('Pressure', d1, 0, 127)];
    case 0xe:
      return [number('Bend', (d1 | (d2 << 7)) - 8192, -8192, 8191)];
    default:
      return status === META
        ? metaFields(d1, payload, as.encoding)
        : [{ name: 'Bytes', value: hex(payload), wide: true }];
  }
}

function metaFields(type: number, b: Uint8Array, encoding: TextEncodingName): EventField[] {
  if (type === meta.endOfTrack) return [];
  if (texts.has(type)) return [{ name: 'Text', value: decodeText(b, encoding), wide: true }];
  if (type === meta.tempo && b.length === 3)
    return [
      {
        name: 'BPM',
        value: String(Math.round(tempoToBpm((b[0]! << 16) | (b[1]! << 8) | b[2]!) * 1000) / 1000),
        min: slowestBpm,
        max: fastestBpm,
        fine: true,
      },
    ];
  if (type === meta.timeSignature && b.length === 4)
    return [number('Beats', b[0]!, 1, 255), number('Of', 2 ** Math.min(7, b[1]!), 1, 128)];
  if (type === meta.keySignature && b.length === 2)
    return [number('Sharps', (b[0]! << 24) >> 24, -7, 7), number('Minor', b[1]!, 0, 1)];
  return [{ name: 'Bytes', value: hex(b), wide: true }];
}

/** What was typed, as parts of a message; or what is wrong with it. */
export function partsFrom(
  status: number,
  type: number,
  fields: readonly EventField[],
  payload: Uint8Array,
  as: Written,
): EventParts | { wrong: string } {
  const values = new Map<string, number>();
  for (const f of fields) {
    if (f.min === undefined) continue;
    const n = f.key ? (keyTyped(f.value, as.middleC) ?? NaN) : Number(f.value);
    if (
      f.value.trim() === '' ||
      !Number.isFinite(n) ||
      (!f.fine && !Number.isInteger(n)) ||
      n < f.min ||
      n > f.max!
    )
      return {
        wrong: f.key
          ? `Key: a name such as ${keyName(60, as.middleC)}, or a number from 0 to 127`
          : `${f.name}: ${f.fine ? 'a number' : 'a whole number'} from ${f.min} to ${f.max}`,
      };
    values.set(f.name, n);
  }
  if (values.has('Of') && !Number.isInteger(Math.log2(values.get('Of')!)))
    return { wrong: 'Of: 1, 2, 4, 8, 16, 32, 64 or 128' };
  const text = fields.find((f) => f.min === undefined);
  const v = (name: string): number => values.get(name)!;
  switch (status >> 4) {
    case 0x8:
      return { data1: v('Key'), data2: v('Release velocity') };
    case 0x9:
      return {
        data1: v('Key'),
        data2: v('Velocity'),
        ...(values.has('Length') ? { length: v('Length') } : {}),
      };
    case 0xa:
      return { data1: v('Key'), data2: v('Pressure') };
    case 0xb:
      return { data1: v('Controller'), data2: v('Value') };
    case 0xc:
      return { data1: v('Program') - 1 };
    case 0xd:
      return { data1: v('Pressure') };
    case 0xe:
      return { data1: (v('Bend') + 8192) & 127, data2: (v('Bend') + 8192) >> 7 };
    default:
      return status === META && !text
        ? { payload: metaBytes(type, v, payload) }
        : text
          ? textBytes(text, as.encoding)
          : {};
  }
}

function metaBytes(type: number, v: (name: string) => number, before: Uint8Array): number[] {
  if (type === meta.tempo) {
    const tempo = bpmToTempo(v('BPM'));
    return [tempo >> 16, (tempo >> 8) & 255, tempo & 255];
  }
  if (type === meta.timeSignature)
    return [v('Beats'), Math.round(Math.log2(v('Of'))), before[2] ?? 24, before[3] ?? 8];
  return [v('Sharps') & 255, v('Minor')];
}

function textBytes(
  { name, value }: EventField,
  encoding: TextEncodingName,
): EventParts | { wrong: string } {
  if (name === 'Text') return { payload: [...encodeFor(value, encoding)] };
  const words = value.trim() === '' ? [] : value.trim().split(/\s+/);
  if (!words.every((w) => /^[0-9a-f]{1,2}$/i.test(w)))
    return { wrong: 'Bytes: two hexadecimal figures each, such as 7E 7F 09 01 F7' };
  return { payload: words.map((w) => parseInt(w, 16)) };
}

/** Length of the note that a row begins; undefined for every other row, and for a note that hangs. */
export function noteLength(events: Events, row: number): number | undefined {
  if (events.status[row]! >> 4 !== 9 || events.data2[row] === 0) return undefined;
  const notes = notesOf(events);
  const n = notes.on.indexOf(row);
  return n === -1 || notes.off[n] === -1
    ? undefined
    : events.atTick[notes.off[n]!]! - events.atTick[row]!;
}

export const fieldsOfRow = (events: Events, row: number, as: Written): EventField[] =>
  fieldsOf(
    events.status[row]!,
    events.data1[row]!,
    events.data2[row]!,
    payloadOf(events, row),
    noteLength(events, row),
    as,
  );

/** What a new event begins with. */
export function newFields(kind: Insertable, quarter: number, middleC: number): EventField[] {
  const [status, type] = insertable[kind];
  const defaults: Partial<Record<Insertable, [number, number]>> = {
    Note: [60, 80],
    Controller: [7, 100],
    'Pitch bend': [0, 64],
    'Poly pressure': [60, 64],
    'Channel pressure': [64, 0],
  };
  const bytes: Partial<Record<Insertable, number[]>> = {
    Tempo: [7, 0xa1, 0x20],
    Meter: [4, 2, 24, 8],
    'Key signature': [0, 0],
    'System exclusive': [0x7e, 0x7f, 9, 1, 0xf7],
  };
  const [d1, d2] = defaults[kind] ?? [type, 0];
  return fieldsOf(
    status,
    d1,
    d2,
    Uint8Array.from(bytes[kind] ?? []),
    kind === 'Note' ? quarter : undefined,
    { encoding: 'UTF-8', middleC },
  );
}
