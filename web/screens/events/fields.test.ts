import { expect, it } from 'vitest';
import { META, SYSEX, meta } from '#core/smf/events.ts';
import { fieldsOf, insertable, newFields, partsFrom, type EventField } from './fields.ts';

const as = { encoding: 'UTF-8', middleC: 4 } as const;
const none = new Uint8Array(0);
const typed = (fields: EventField[], values: Record<string, string>): EventField[] =>
  fields.map((f) => ({ ...f, value: values[f.name] ?? f.value }));

interface Case {
  readonly message: readonly [status: number, d1: number, d2: number];
  readonly payload?: number[];
  readonly length?: number;
  readonly typed: Record<string, string>;
  readonly gives: object;
}

it.each<[string, Case]>([
  [
    'a note',
    {
      message: [0x93, 60, 80],
      length: 96,
      typed: { Key: '62', Velocity: '90', Length: '48' },
      gives: { data1: 62, data2: 90, length: 48 },
    },
  ],
  [
    'a controller',
    { message: [0xb0, 7, 80], typed: { Value: '3' }, gives: { data1: 7, data2: 3 } },
  ],
  [
    'a program, counted from 1',
    { message: [0xc0, 4, 0], typed: { Program: '128' }, gives: { data1: 127 } },
  ],
  [
    'a bend about its centre',
    { message: [0xe0, 0, 64], typed: { Bend: '-1' }, gives: { data1: 127, data2: 63 } },
  ],
  [
    'a text',
    {
      message: [META, meta.marker, 0],
      payload: [65],
      typed: { Text: 'Bü' },
      gives: { payload: [66, 0xc3, 0xbc] },
    },
  ],
  // 60,000,000 / 100 BPM is 600,000 = 0x0927C0 microseconds a quarter.
  [
    'a tempo',
    {
      message: [META, meta.tempo, 0],
      payload: [7, 0xa1, 0x20],
      typed: { BPM: '100' },
      gives: { payload: [0x09, 0x27, 0xc0] },
    },
  ],
  [
    'a meter, its clicks kept',
    {
      message: [META, meta.timeSignature, 0],
      payload: [4, 2, 36, 8],
      typed: { Beats: '7', Of: '8' },
      gives: { payload: [7, 3, 36, 8] },
    },
  ],
  [
    'a key',
    {
      message: [META, meta.keySignature, 0],
      payload: [0, 0],
      typed: { Sharps: '-3', Minor: '1' },
      gives: { payload: [253, 1] },
    },
  ],
  [
    'system exclusive',
    {
      message: [SYSEX, 0, 0],
      payload: [1, 0xf7],
      typed: { Bytes: '7e 0A F7' },
      gives: { payload: [0x7e, 0x0a, 0xf7] },
    },
  ],
])(
  '%s is typed by its names',
  (_, { message: [status, d1, d2], payload = [], length, typed: values, gives }) => {
    const fields = fieldsOf(status, d1, d2, Uint8Array.from(payload), length, as);
    expect(partsFrom(status, d1, typed(fields, values), Uint8Array.from(payload), as)).toEqual(
      gives,
    );
  },
);

it('keys are typed by their names, by whatever octave middle C has', () => {
  const fields = fieldsOf(0x90, 60, 80, none, undefined, as);
  expect(fields[0]).toMatchObject({ name: 'Key', value: 'C4' });
  // Scientific pitch notation: C4 is middle C, key 60; F#3 lies six semitones beneath it.
  expect(partsFrom(0x90, 60, typed(fields, { Key: 'F#3' }), none, as)).toMatchObject({ data1: 54 });
  expect(
    partsFrom(0x90, 60, typed(fields, { Key: 'c3' }), none, { ...as, middleC: 3 }),
  ).toMatchObject({ data1: 60 });
  expect(partsFrom(0x90, 60, typed(fields, { Key: '61' }), none, as)).toMatchObject({ data1: 61 });
  expect(partsFrom(0x90, 60, typed(fields, { Key: 'H2' }), none, as)).toHaveProperty('wrong');
});

it('what cannot be is told', () => {
  expect(
    partsFrom(
      META,
      meta.timeSignature,
      typed(fieldsOf(META, meta.timeSignature, 0, Uint8Array.of(4, 2, 24, 8), undefined, as), {
        Of: '3',
      }),
      none,
      as,
    ),
  ).toHaveProperty('wrong');
  const note = fieldsOf(0x90, 60, 80, none, 10, as);
  for (const values of [
    { Key: '128' },
    { Velocity: '0' },
    { Key: '' },
    { Key: '6.5' },
    { Length: 'x' },
  ])
    expect(partsFrom(0x90, 60, typed(note, values), none, as)).toHaveProperty('wrong');
  expect(
    partsFrom(
      SYSEX,
      0,
      typed(fieldsOf(SYSEX, 0, 0, none, undefined, as), { Bytes: 'xyz' }),
      none,
      as,
    ),
  ).toHaveProperty('wrong');
});

it('every new event is whole as it begins', () => {
  for (const kind of Object.keys(insertable) as (keyof typeof insertable)[])
    expect(
      partsFrom(insertable[kind][0], insertable[kind][1], newFields(kind, 96, 4), none, as),
    ).not.toHaveProperty('wrong');
});
