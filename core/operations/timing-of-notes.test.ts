import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue, type Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import { noteFaults } from '../edit/note-faults.ts';
import { runStep } from './run.ts';

/** At 96 PPQ a sixteenth is 24 ticks, an eighth 48, an eighth triplet 32, a bar of 4/4 384. */
function after(events: Events, operation: string, settings: object): Events {
  const song: Song = {
    title: 'x',
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    encoding: 'UTF-8',
    nextTrack: 2,
    tracks: [{ id: 't1', events }],
  };
  const result = runStep(song, { operation, settings });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value.song.tracks[0]!.events;
}

const note = (from: number, to: number, key = 60): EventValue[] => [
  channelEvent(from, 0x90, key, 80),
  channelEvent(to, 0x80, key, 64),
];
const places = (events: Events): [number, number][] => {
  const notes = notesOf(events);
  return Array.from({ length: notes.count }, (_, n) => [
    events.atTick[notes.on[n]!]!,
    events.atTick[notes.off[n]!]!,
  ]);
};
const played = (...list: [number, number][]): Events =>
  eventsFrom(list.flatMap(([from, to], i) => note(from, to, 40 + i)));

describe('quantising', () => {
  it.each([
    [
      'starts to sixteenths, lengths kept',
      {},
      [
        [0, 20],
        [24, 50],
        [72, 92],
      ],
    ],
    [
      'half way',
      { strength: 50 },
      [
        [2, 22],
        [25, 51],
        [71, 91],
      ],
    ],
    [
      'ends alone',
      { what: 'ends' },
      [
        [3, 24],
        [26, 48],
        [70, 96],
      ],
    ],
    [
      'to eighth triplets',
      { grid: '1/8', feel: 'triplet' },
      [
        [0, 20],
        [32, 58],
        [64, 84],
      ],
    ],
    [
      'swung eighths at 67 %',
      { grid: '1/8', swing: 67 },
      [
        [0, 20],
        [0, 26],
        [64, 84],
      ],
    ],
  ])('%s, hand-worked', (_, settings, expected) => {
    expect(
      places(after(played([3, 23], [26, 52], [70, 90]), 'notes.quantise', settings as object)),
    ).toEqual(expected);
  });

  it('lets the grid begin anew with every bar of 7/8 (336 ticks)', () => {
    const sevenEight = metaEvent(0, meta.timeSignature, Uint8Array.of(7, 3, 24, 8));
    const events = eventsFrom([
      sevenEight,
      ...note(333, 350),
      ...note(340, 380, 61),
      ...note(430, 440, 62),
    ]);
    expect(places(after(events, 'notes.quantise', { grid: '1/4' }))).toEqual([
      [336, 353],
      [336, 376],
      [432, 442],
    ]);
  });

  it('never changes the number of notes, makes none empty, lets none hang that did not, and leaves everything else in place', () => {
    const settings = fc.record({
      grid: fc.constantFrom('1/4', '1/8', '1/16', '1/64'),
      feel: fc.constantFrom('straight', 'dotted', 'triplet', 'septuplet'),
      what: fc.constantFrom('starts', 'ends', 'both'),
      strength: fc.integer({ min: 1, max: 100 }),
      swing: fc.integer({ min: 50, max: 75 }),
    });
    fc.assert(
      fc.property(trackEvents, settings, (events, chosen) => {
        const quantised = after(events, 'notes.quantise', chosen);
        const ons = (e: Events): number => notesOf(e).count;
        expect(ons(quantised)).toBe(ons(events));
        const others = (e: Events): string[] => plainEvents(e).filter((l) => !/ [89]|ff2f/.test(l));
        expect(others(quantised)).toEqual(others(events));
        if (
          noteFaults(events).hanging.length === 0 &&
          noteFaults(events).overlapping.length === 0 &&
          notesOf(events).strayOffs === 0
        )
          expect(noteFaults(quantised).empty).toEqual([]);
      }),
      { seed: 41, numRuns: scaleRuns(400) },
    );
  });
});

describe('lengths', () => {
  const three = played([0, 20], [48, 50], [96, 200]);

  it.each([
    [
      'scaled',
      { how: 'scale', percent: 50 },
      [
        [0, 10],
        [48, 49],
        [96, 148],
      ],
    ],
    [
      'exactly an eighth',
      { how: 'exactly', value: '1/8' },
      [
        [0, 48],
        [48, 96],
        [96, 144],
      ],
    ],
    [
      'at least a sixteenth',
      { how: 'at least', value: '1/16' },
      [
        [0, 24],
        [48, 72],
        [96, 200],
      ],
    ],
    [
      'at most a sixteenth',
      { how: 'at most', value: '1/16' },
      [
        [0, 20],
        [48, 50],
        [96, 120],
      ],
    ],
    [
      'legato',
      { how: 'legato', percent: 100 },
      [
        [0, 48],
        [48, 96],
        [96, 200],
      ],
    ],
  ])('%s, hand-worked', (_, settings, expected) => {
    expect(places(after(three, 'notes.lengths', settings))).toEqual(expected);
  });

  it('legato holds whole chords to the next, and repeated notes do not cut each other', () => {
    const chords = eventsFrom([...note(0, 5, 60), ...note(0, 5, 64), ...note(96, 100, 60)]);
    const held = after(chords, 'notes.lengths', { how: 'legato', percent: 100 });
    expect(places(held)).toEqual([
      [0, 96],
      [0, 96],
      [96, 100],
    ]);
    expect(noteFaults(held).overlapping).toEqual([]);
  });
});

describe('humanising', () => {
  it('is the same for one seed and never moves a note further than the spread (1 tick at 120 BPM and 96 PPQ is 5.208 ms)', () => {
    const events = played(
      ...Array.from({ length: 40 }, (_, i): [number, number] => [960 + i * 24, 970 + i * 24]),
    );
    const moved = after(events, 'notes.humanise', { spread: 20, seed: 3 });
    expect(places(after(events, 'notes.humanise', { spread: 20, seed: 3 }))).toEqual(places(moved));
    places(moved).forEach(([from, to], i) => {
      expect(Math.abs(from - (960 + i * 24))).toBeLessThanOrEqual(Math.ceil(20 / 5.208));
      expect(to - from).toBe(10);
    });
    expect(places(moved)).not.toEqual(places(events));
  });
});
