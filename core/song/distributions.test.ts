import { describe, expect, it } from 'vitest';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { channelEvent } from '../smf/events.ts';
import { meterMap } from '../timing/meter-map.ts';
import { tempoMap } from '../timing/tempo-map.ts';
import { distributionsOf } from './distributions.ts';

const division = { kind: 'ppq', ticksPerQuarter: 96 } as const;
/** 4/4 at 120 BPM: a tick is 5.208 ms. */
const over = { meters: meterMap([], division), tempo: tempoMap([], division), quarter: 96 };
const counted = (
  ...events: Parameters<typeof songOf>[0][]
): Record<string, Record<string, number>> =>
  Object.fromEntries(
    distributionsOf(songOf(...events).tracks[0]!.events, over).map(({ of, bins }) => [
      of,
      Object.fromEntries(bins.filter((b) => b.count > 0).map((b) => [b.name, b.count])),
    ]),
  );

describe('distributions of a track, worked by hand', () => {
  it('velocities by eights', () => {
    expect(
      counted([
        ...note(0, 24, 60, 1),
        ...note(24, 24, 60, 7),
        ...note(48, 24, 60, 8),
        ...note(72, 24, 60, 127),
      ]).Velocities,
    ).toEqual({ '1–7': 2, '8–15': 1, '120–127': 1 });
  });

  it('lengths as the nearest note value; a note that hangs has none', () => {
    // 24 ticks are a sixteenth, 33 still one (√2 · 24 = 33.9), 34 an eighth, 1 and 6 a sixty-fourth, 4000
    // longer than a whole note.
    expect(
      counted([
        ...note(0, 24, 60),
        ...note(100, 33, 61),
        ...note(200, 34, 62),
        ...note(300, 1, 63),
        ...note(400, 6, 64),
        ...note(500, 4000, 65),
        channelEvent(600, 0x90, 66, 80),
      ]).Lengths,
    ).toEqual({ '1/16': 2, '1/8': 1, '1/64': 2, longer: 1 });
  });

  it('places beside the nearest sixteenth in milliseconds, early and late, the farthest together', () => {
    // 1 tick is 5.2 ms, 2 ticks 10.4 ms; 10 of 24 ticks are 52 ms late, 11 ticks short of a line 57 ms early.
    expect(
      counted([
        ...note(24, 9, 60),
        ...note(25, 9, 61),
        ...note(46, 9, 62),
        ...note(82, 9, 63),
        ...note(109, 9, 64),
      ])['Beside the grid of 1/16, in ms'],
    ).toEqual({ 0: 1, 5: 1, '−10': 1, 'later than 35': 1, 'earlier than −35': 1 });
  });

  it('values of controllers over the bars; of long songs several bars together', () => {
    expect(
      counted([controller(0, 7, 1), controller(383, 11, 2), controller(384, 7, 3)])[
        'Values of controllers'
      ],
    ).toEqual({ 'bar 1': 2, 'bar 2': 1 });
    // 65 bars in bins of three: the last has two.
    expect(
      counted([controller(0, 7, 1), controller(64 * 384, 7, 2)])['Values of controllers'],
    ).toEqual({ 'bars 1–3': 1, 'bars 64–65': 1 });
  });

  it('of what a track has nothing of, nothing is said', () => {
    expect(counted([])).toEqual({});
    expect(Object.keys(counted(note(0, 24, 60)))).toEqual([
      'Velocities',
      'Lengths',
      'Beside the grid of 1/16, in ms',
    ]);
  });
});
