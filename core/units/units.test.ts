import { describe, expect, it } from 'vitest';
import { bpmToTempo, fastestBpm, keyName, slowestBpm, tempoToBpm } from './units.ts';

describe('numbers with a unit', () => {
  it('turns beats a minute into the tempo the format can say (Source: facts of MIDI 1.0: 96 = 625000, 97 = 618557, 133 = 451128)', () => {
    expect([120, 96, 97, 133].map(bpmToTempo)).toEqual([500000, 625000, 618557, 451128]);
    expect(tempoToBpm(618557)).toBeCloseTo(96.99995, 4);
    expect(tempoToBpm(451128)).toBeCloseTo(132.99995, 4);
  });

  it('names keys, middle C by the octave the reader prefers', () => {
    expect([keyName(60), keyName(60, 3), keyName(69), keyName(0), keyName(127)]).toEqual([
      'C4',
      'C3',
      'A4',
      'C-1',
      'G9',
    ]);
  });

  it('refuses values out of range, saying which', () => {
    expect(() => bpmToTempo(60_000_001 * 2)).toThrow('from 1 to 16777215, not 0');
    expect(() => bpmToTempo(NaN)).toThrow('not NaN');
  });
});

it('the slowest and the fastest tempo are the ends of three bytes (SMF 1.0)', () => {
  expect([bpmToTempo(slowestBpm), bpmToTempo(fastestBpm)]).toEqual([0xffffff, 1]);
  expect(tempoToBpm(0xffffff)).toBeGreaterThanOrEqual(slowestBpm);
  expect(() => bpmToTempo(slowestBpm - 1e-6)).toThrow();
});
