import { META, meta, metaEvent, SYSEX, channelEvent, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';

/**
 * Cases of the look-over's rules: what each must find, and what looks like it and is none. For tests. 96
 * PPQ, a bar is 384 ticks, 120 BPM.
 */
export interface Planted {
  /** Songs in which the rule finds something: tracks of events. */
  readonly faults: readonly (readonly (readonly EventValue[])[])[];
  /** Songs in which it finds nothing. */
  readonly sound: readonly (readonly (readonly EventValue[])[])[];
}

export const name = (text: string): EventValue => metaEvent(0, meta.trackName, encodeText(text));
const tempo = (tick: number, bpm: number): EventValue =>
  ((t) => metaEvent(tick, meta.tempo, Uint8Array.of(t >> 16, (t >> 8) & 255, t & 255)))(
    Math.round(60e6 / bpm),
  );
const meter = (tick: number, numerator: number): EventValue =>
  metaEvent(tick, meta.timeSignature, Uint8Array.of(numerator, 2, 24, 8));
const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));
const end = (tick: number): EventValue => metaEvent(tick, meta.endOfTrack);
const cc = (tick: number, controller: number, value: number, channel = 0): EventValue =>
  channelEvent(tick, 0xb0 | channel, controller, value);
const bend = (tick: number, value: number, channel = 0): EventValue =>
  channelEvent(tick, 0xe0 | channel, value & 127, value >> 7);
const program = (tick: number, number: number, channel = 0): EventValue =>
  channelEvent(tick, 0xc0 | channel, number);
const note = (
  tick: number,
  length: number,
  key: number,
  velocity: number,
  channel = 0,
): EventValue[] => [
  channelEvent(tick, 0x90 | channel, key, velocity),
  channelEvent(tick + length, 0x80 | channel, key, 64),
];
const each = <T>(many: number, of: (i: number) => T[]): T[] =>
  Array.from({ length: many }, (_, i) => of(i)).flat();
/** Velocities as of a player: many, none often. */
const alive = (i: number): number => 50 + ((i * 37) % 61);

export const map: EventValue[] = [name('Map'), tempo(0, 120), end(3840)];
/** A sound part: ten quarters of many velocities, a program, one channel. */
export const part = (
  channel: number,
  called = `Part ${'ABCDEFGH'[channel]}`,
  key = 50 + channel,
  many = 10,
): EventValue[] => [
  name(called),
  program(0, 88 + channel, channel),
  ...each(many, (i) => note(i * 96, 80, key + (i % 5), alive(i), channel)),
];
const line = (places: (i: number) => number, many = 32, channel = 0): EventValue[] => [
  name('Line'),
  program(0, 10, channel),
  ...each(many, (i) => note(places(i), 10, 60 + (i % 5), alive(i), channel)),
];
const sysex: EventValue = {
  atTick: 0,
  status: SYSEX,
  data1: 0,
  data2: 0,
  payload: Uint8Array.of(0x7e, 0x7f, 9, 1, 0xf7),
};
const late = (
  events: readonly EventValue[],
  ticks: number,
  channel: number,
  up = 0,
): EventValue[] =>
  events.map((e) =>
    e.status === META
      ? e
      : {
          ...e,
          atTick: e.status >> 4 < 10 ? e.atTick + ticks : e.atTick,
          status: (e.status & 0xf0) | channel,
          data1: e.status >> 4 < 10 ? e.data1 + up : e.data1,
        },
  );
const one = (...events: readonly EventValue[]): EventValue[][] => [map, [...part(0), ...events]];
const click = (keys: readonly number[], channel = 9): EventValue[] => [
  name('Counts'),
  ...each(32, (i) => note(i * 96, 20, keys[i % 4 === 0 ? 0 : keys.length - 1]!, alive(i), channel)),
];

export const planted: Readonly<Record<string, Planted>> = {
  'faulty-notes': {
    faults: [
      one(channelEvent(2000, 0x90, 60, 70)),
      one(...note(2000, 100, 60, 70), ...note(2050, 100, 60, 70)),
      one(...note(2000, 100, 60, 70), ...note(2000, 100, 60, 70)),
      one(...note(2000, 0, 60, 70)),
      // Struck again before its end on the same tick.
      one(
        channelEvent(2000, 0x90, 60, 70),
        channelEvent(2050, 0x90, 60, 71),
        channelEvent(2050, 0x80, 60, 64),
        channelEvent(2100, 0x80, 60, 64),
      ),
    ],
    sound: [
      one(...note(2000, 50, 60, 70), ...note(2050, 50, 60, 71)),
      one(...note(2000, 100, 60, 70), ...note(2050, 100, 72, 70)),
      [
        map,
        [
          ...part(9),
          channelEvent(2000, 0x99, 38, 70),
          channelEvent(2050, 0x99, 38, 71),
          channelEvent(2050, 0x89, 38, 64),
          channelEvent(2100, 0x89, 38, 64),
        ],
      ],
    ],
  },
  'turned-down': {
    faults: [one(cc(0, 7, 0)), one(cc(190, 11, 2))],
    sound: [one(cc(0, 7, 100), cc(800, 7, 0)), one(cc(0, 7, 5))],
  },
  'left-hanging': {
    faults: [
      one(cc(400, 64, 127)),
      one(bend(500, 9000), cc(0, 101, 0), cc(0, 100, 0), cc(0, 6, 2)),
    ],
    sound: [one(cc(400, 64, 127), cc(500, 64, 0)), one(bend(500, 9000), bend(600, 8192))],
  },
  'programs-inside': {
    faults: [one(program(400, 40)), one(cc(400, 0, 8), program(400, 88))],
    sound: [one(program(400, 88)), one(program(0, 88))],
  },
  'key-switches': {
    faults: [[map, [...part(0, 'Strings', 60, 20), ...note(0, 20, 24, 70)]]],
    sound: [
      [map, [...part(0, 'Bass', 40, 20), ...note(0, 20, 31, 70)]],
      [map, [...part(9, 'Kit', 60, 20), ...note(0, 20, 24, 70, 9)]],
    ],
  },
  strays: {
    faults: [[map, [...part(0, 'Flute', 60, 40), ...note(39 * 96 + 64 * 96, 50, 60, 70)]]],
    sound: [
      [map, [...part(0, 'Flute', 60, 40), ...note(39 * 96 + 60 * 96, 50, 60, 70)]],
      [
        map,
        [...part(0, 'Flute', 60, 40), ...note(103 * 96, 50, 60, 70)],
        [
          name('Oboe'),
          program(0, 68, 1),
          ...each(10, (i) => note(103 * 96 + i * 96, 80, 70 + i, alive(i), 1)),
        ],
      ],
    ],
  },
  'click-part': {
    faults: [
      [map, part(0, 'A', 50, 32), click([33, 34])],
      [map, part(0, 'A', 50, 32), click([76])],
    ],
    sound: [
      [map, part(0, 'A', 50, 32), click([36])],
      [
        map,
        part(0, 'A', 50, 32),
        [name('Kit'), ...each(32, (i) => note(i * 96, 20, [38, 42, 46][i % 3]!, alive(i), 9))],
      ],
      [
        map,
        [...part(0, 'A', 50, 32)],
        [name('Back beat'), ...each(32, (i) => note(96 + i * 192, 20, 38, alive(i), 9))],
      ],
    ],
  },
  doubled: {
    faults: [
      [map, part(0), late(part(0, 'Second'), 0, 1)],
      [map, part(0), late(part(0, 'Second'), 0, 1, 12)],
      [map, part(0), late(part(0, 'Second'), 20, 1)],
      [map, part(0, 'Long', 50, 20), late(part(0, 'Short'), 0, 1)],
    ],
    sound: [
      [map, part(0), late(part(0, 'Second'), 0, 1, 7)],
      [map, part(0), late(part(0, 'Answer'), 384, 1)],
    ],
  },
  'one-velocity': {
    faults: [
      [
        map,
        [name('Flat'), program(0, 10), ...each(20, (i) => note(i * 96, 80, 50 + (i % 5), 100))],
      ],
      [
        map,
        [
          name('Flat'),
          program(0, 10),
          ...each(100, (i) => note(i * 96, 80, 50 + (i % 5), i < 5 ? 60 + i : 100)),
        ],
      ],
    ],
    sound: [
      [map, part(0)],
      [
        map,
        [
          name('Played'),
          program(0, 10),
          ...each(100, (i) => note(i * 96, 80, 50 + (i % 5), i < 8 ? 60 + i : 100)),
        ],
      ],
    ],
  },
  'off-the-grid': {
    faults: [
      [map, line((i) => i * 24 + 7)],
      [map, line((i) => 96 + i * 24 - 5)],
      [map, line((i) => i * 103)],
    ],
    // Thirty-seconds, sextuplets, swing, and a hand's small differences.
    sound: [
      [map, line((i) => i * 12)],
      [map, line((i) => i * 16)],
      [map, line((i) => (i >> 1) * 96 + (i % 2) * 57)],
      [map, line((i) => (i >> 1) * 96 + (i % 2) * 64)],
      [map, line((i) => 96 + i * 24 + ((i * 7) % 3) - 1)],
    ],
  },
  'too-many-voices': {
    faults: [
      [
        map,
        [name('Flute'), program(0, 73), ...each(12, (i) => note(i * 96, 140, 60 + i, alive(i)))],
      ],
    ],
    sound: [
      [
        map,
        [name('Flute'), program(0, 73), ...each(12, (i) => note(i * 96, 106, 60 + i, alive(i)))],
      ],
      [
        map,
        [name('Piano'), program(0, 0), ...each(12, (i) => note(i * 96, 140, 60 + i, alive(i)))],
      ],
    ],
  },
  'out-of-range': {
    faults: [
      [map, [name('Solo'), program(0, 73), ...each(12, (i) => note(i * 96, 80, 50 + i, alive(i)))]],
      [map, [name('Low'), program(0, 43), ...each(12, (i) => note(i * 96, 80, 70 + i, alive(i)))]],
    ],
    // Bells in any octave, a few notes of a low tuning, and no program at all.
    sound: [
      [map, [name('Solo'), program(0, 9), ...each(12, (i) => note(i * 96, 80, 50 + i, alive(i)))]],
      [
        map,
        [
          name('Solo'),
          program(0, 29),
          ...each(12, (i) => note(i * 96, 80, i < 3 ? 38 : 45 + i, alive(i))),
        ],
      ],
      [map, [name('Solo'), ...each(12, (i) => note(i * 96, 80, 10 + i, alive(i)))]],
    ],
  },
  'kit-keys': {
    faults: [
      [
        map,
        [name('Kit'), program(0, 0, 9), ...each(12, (i) => note(i * 96, 20, 88 + i, alive(i), 9))],
      ],
    ],
    sound: [
      [
        map,
        [name('Kit'), program(0, 0, 9), ...each(12, (i) => note(i * 96, 20, 36 + i, alive(i), 9))],
      ],
    ],
  },
  'contradicting-name': {
    faults: [
      [
        map,
        [name('Trompete 1'), program(0, 0), ...each(12, (i) => note(i * 96, 80, 60 + i, 60 + i))],
      ],
      [
        map,
        [name('Slagverk'), program(0, 61), ...each(12, (i) => note(i * 96, 80, 60 + i, 60 + i))],
      ],
    ],
    // What is called by two names, by what it does, by a neighbour, or played by a synthesiser.
    sound: [
      [
        map,
        [
          name('Flute & Strings'),
          program(0, 73),
          ...each(12, (i) => note(i * 96, 80, 60 + i, 60 + i)),
        ],
      ],
      [
        map,
        [name('Lead vocal'), program(0, 73), ...each(12, (i) => note(i * 96, 80, 60 + i, 60 + i))],
      ],
      [
        map,
        [name('Double bass'), program(0, 32), ...each(12, (i) => note(i * 96, 80, 40 + i, 60 + i))],
      ],
      [
        map,
        [name('Trumpet'), program(0, 81), ...each(12, (i) => note(i * 96, 80, 60 + i, 60 + i))],
      ],
    ],
  },
  'foreign-controllers': {
    faults: [one(cc(0, 74, 30)), one(cc(0, 91, 90)), one(cc(0, 99, 1), cc(0, 98, 8), cc(0, 6, 64))],
    sound: [
      one(cc(0, 91, 0), cc(0, 93, 0)),
      one(cc(0, 91, 40), cc(500, 91, 40)),
      one(cc(0, 67, 127), cc(500, 67, 0)),
      one(cc(0, 7, 90), cc(0, 10, 30), cc(0, 11, 90)),
    ],
  },
  'mode-messages': {
    faults: [one(cc(0, 126, 1)), one(cc(0, 125, 0), cc(0, 127, 0))],
    sound: [one(cc(0, 121, 0)), one(cc(0, 123, 0))],
  },
  'system-exclusive': { faults: [one(sysex)], sound: [[map, part(0)]] },
  'bank-alone': {
    faults: [[map, [cc(0, 0, 1), ...part(0).filter((e) => e.status >> 4 !== 0xc)]]],
    sound: [one(cc(0, 0, 1))],
  },
  'bend-range': {
    faults: [one(bend(10, 9000), bend(20, 8192))],
    sound: [
      one(cc(0, 101, 0), cc(0, 100, 0), cc(0, 6, 12), bend(10, 9000), bend(20, 8192)),
      one(bend(10, 8192)),
    ],
  },
  floods: {
    faults: [
      one(...each(300, (i) => [cc(i * 3, 11, (i * 3) % 128)])),
      one(...each(160, (i) => [cc(96 + i, 11, (i * 3) % 128)]), cc(40 * 384, 11, 90)),
    ],
    sound: [
      one(...each(300, (i) => [cc(i * 8, 11, (i * 3) % 128)])),
      one(...each(60, (i) => [cc(i, 11, (i * 3) % 128)])),
    ],
  },
  'unheard-values': {
    faults: [
      one(...each(20, (i) => [cc(1000 + i, 11, i)])),
      one(...each(20, (i) => [cc(96, 11, i)])),
    ],
    sound: [one(...each(20, (i) => [cc(i * 40, 11, i + 60)]))],
  },
  'idle-values': {
    faults: [one(...each(30, (i) => [cc(i * 20, 11, 90)]))],
    sound: [
      one(...each(15, (i) => [cc(i * 40, 11, 90)])),
      one(...each(30, (i) => [cc(i * 20, 11, 60 + i)])),
    ],
  },
  'constant-lanes': {
    faults: [one(cc(0, 10, 64), cc(100, 10, 64), cc(200, 10, 64))],
    sound: [one(cc(0, 10, 64)), one(cc(0, 10, 64), cc(100, 10, 60), cc(200, 10, 64))],
  },
  'several-channels': {
    faults: [
      [map, [...part(0), ...each(10, (i) => note(i * 96, 80, 70, alive(i), 1))]],
      one(program(0, 5, 4)),
    ],
    sound: [[map, part(0), part(1)]],
  },
  'shared-channel': {
    faults: [[map, part(0), late(part(1, 'Other', 70), 0, 0)]],
    sound: [
      [map, part(0), part(1)],
      [map, part(0), part(0, 'Other', 70).filter((e) => e.status >> 4 !== 0xc), part(1)],
      // On a second port it is another device.
      [
        map,
        part(0),
        [metaEvent(0, meta.port, Uint8Array.of(1)), ...late(part(1, 'Other', 70), 0, 0)],
      ],
    ],
  },
  shredded: {
    faults: [
      [[name('Map'), ...each(60, (i) => [tempo(i * 12, 120 - i * 0.5)]), end(3840)], part(0)],
    ],
    sound: [[[name('Map'), ...each(5, (i) => [tempo(i * 96, 120 - i * 6)]), end(3840)], part(0)]],
  },
  'untidy-timing': {
    faults: [one(tempo(384, 100)), [[...map, tempo(384, 120)], part(0)]],
    sound: [[[...map, tempo(384, 100), tempo(768, 120)], part(0)]],
  },
  'meters-in-bar': {
    faults: [
      [[...map, meter(576, 3)], part(0)],
      [[...map, meter(390, 3)], part(0)],
    ],
    sound: [
      [[...map, meter(384, 3), meter(672, 4)], part(0)],
      [[...map, meter(0, 4), meter(500, 4)], part(0)],
    ],
  },
  'markers-off-bar': {
    faults: [[[...map, text(389, meta.marker, 'A')], part(0)]],
    sound: [[[...map, text(384, meta.marker, 'A'), text(480, meta.marker, 'B')], part(0)]],
  },
  'gap-before': { faults: [[map, late(part(0), 768, 0)]], sound: [[map, late(part(0), 96, 0)]] },
  'late-end': { faults: [[[...map, end(384 * 20)], part(0)]], sound: [[map, part(0)]] },
  unnamed: {
    faults: [
      [map, part(2, '')],
      [map, part(2, 'Track 3')],
      [map, part(2, 'MIDI 01')],
    ],
    sound: [
      [map, part(0, 'Violin 2')],
      [map, part(0, 'Take 5 brass')],
    ],
  },
  'empty-tracks': {
    faults: [[map, part(0), [name('Nothing')]]],
    sound: [[map, part(0), [name('Words'), text(0, meta.lyric, 'la')]]],
  },
  'set-up-only': {
    faults: [
      [map, part(0), [name('Left over'), program(0, 3, 5), cc(0, 7, 90, 5)]],
      [map, part(0), [name('For A'), cc(0, 7, 90)]],
    ],
    sound: [
      [map, part(0), [name('Words'), program(0, 3, 5), text(0, meta.lyric, 'la')]],
      [map, part(0), [name('Nothing')]],
    ],
  },
};
