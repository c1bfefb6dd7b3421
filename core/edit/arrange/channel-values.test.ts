import { describe, expect, it } from 'vitest';
import { ChannelValues, slotsOf } from './channel-values.ts';

type Said = readonly (readonly number[])[];

/** What a channel is set to after controllers, number and value each. */
const after = (...controllers: Said): ChannelValues => {
  const values = new ChannelValues();
  for (const [number, value] of controllers) values.hear(0xb2, number!, value!);
  return values;
};

/** What has to be said to a channel that was only switched on, or to one set otherwise: number and value each. */
const toSay = (wanted: ChannelValues, has = new ChannelValues()): Said =>
  has.upTo(wanted, 2).messages.map(([status, number, value]) => {
    expect(status).toBe(0xb2);
    return [number, value];
  });

describe('controllers that choose and set parameters (MIDI 1.0, RP-018), worked by hand', () => {
  it('one that was chosen, and for which nothing was entered, is chosen: coarse half, fine half', () => {
    expect(toSay(after([101, 0], [100, 1]))).toEqual([
      [101, 0],
      [100, 1],
    ]);
    expect(toSay(after([99, 5], [98, 6]))).toEqual([
      [99, 5],
      [98, 6],
    ]);
  });

  it('the value that was entered comes behind what it is entered for', () => {
    const range = toSay(after([101, 0], [100, 0], [6, 12]));
    expect(range.slice(0, 3)).toEqual([
      [101, 0],
      [100, 0],
      [6, 12],
    ]);
    // Bend range 2 is what every channel begins with: only the choice is left.
    expect(toSay(after([101, 0], [100, 0], [6, 2]))).toEqual([
      [101, 0],
      [100, 0],
    ]);
  });

  it('a value for the null parameter is none, nor is one before any was chosen', () => {
    expect(toSay(after([6, 12], [38, 3]))).toEqual([]);
    expect(toSay(after([101, 127], [100, 127], [6, 12]))).toEqual([]);
  });

  it('steps up and down are counted from the value that was set last', () => {
    const up = toSay(after([99, 1], [98, 8], [6, 40], [96, 0], [96, 0], [97, 0]));
    expect(up.slice(0, 4)).toEqual([
      [99, 1],
      [98, 8],
      [6, 40],
      [96, 0],
    ]);
    expect(up.filter(([number]) => number === 96 || number === 97)).toHaveLength(1);
  });

  it('what another parameter was set to stays: it is chosen, set back, and the first chosen again', () => {
    const has = after([101, 0], [100, 0], [6, 12]);
    const wanted = after([101, 0], [100, 0], [6, 2], [101, 127], [100, 127]);
    expect(toSay(wanted, has)).toEqual([
      [101, 0],
      [100, 0],
      [6, 2],
      [101, 127],
      [100, 127],
    ]);
  });
});

describe('what a channel begins with is not said, and what nobody knows is counted', () => {
  it('volume 100, pan 64, expression 127, pedal up (GM, RP-003, from memory)', () => {
    expect(toSay(after([7, 100], [10, 64], [11, 127], [64, 0]))).toEqual([]);
    expect(toSay(after([7, 99], [10, 63], [11, 126], [64, 64]))).toEqual([
      [7, 99],
      [10, 63],
      [11, 126],
      [64, 64],
    ]);
  });

  it('a controller whose first value nobody knows', () => {
    const has = after([20, 5]);
    expect(has.upTo(new ChannelValues(), 2)).toEqual({ messages: [], unknown: 1 });
    expect(toSay(has)).toEqual([[20, 5]]);
  });

  it('poly and mono, with how many channels, omni and local control (MIDI 1.0: 126, 127, 124, 125, 122)', () => {
    expect(toSay(after([126, 0]))).toEqual([[126, 0]]);
    expect(toSay(after([126, 4]))).toEqual([[126, 4]]);
    expect(toSay(after([127, 0]), after([126, 4]))).toEqual([[127, 0]]);
    expect(toSay(after([125, 0], [122, 0]))).toEqual([
      [122, 0],
      [125, 0],
    ]);
    expect(toSay(new ChannelValues(), after([122, 0]))).toEqual([[122, 127]]);
  });

  it('reset all controllers leaves volume, pan and banks (RP-015)', () => {
    const values = after([7, 90], [10, 0], [0, 1], [1, 50], [11, 60], [64, 127], [121, 0]);
    expect(toSay(values)).toEqual([
      [0, 1],
      [7, 90],
      [10, 0],
    ]);
  });

  it('what is about to be said need not be said before: key pressure of each key for itself', () => {
    const wanted = new ChannelValues();
    for (const key of [60, 61]) wanted.hear(0xa2, key, 30);
    const said = (covered: readonly number[]) =>
      new ChannelValues().upTo(wanted, 2, new Set(covered)).messages;
    expect(said([])).toEqual([
      [0xa2, 60, 30],
      [0xa2, 61, 30],
    ]);
    expect(said(slotsOf(0xa2, 60))).toEqual([[0xa2, 61, 30]]);
  });

  it('a pedal is down from 64 on (MIDI 1.0)', () => {
    expect(after([64, 63]).pedalsDown()).toEqual([]);
    expect(after([64, 64], [66, 127]).pedalsDown()).toEqual([64, 66]);
  });
});
