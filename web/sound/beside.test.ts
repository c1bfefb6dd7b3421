import { expect, it } from 'vitest';
import { channelEvent } from '#core/smf/events.ts';
import type { SpessaSynthProcessor } from 'spessasynth_core';
import { note, songOf } from '../../tests/support/songs.ts';
import { Beside } from './beside.ts';
import type { Clip } from './messages.ts';

const rate = 48_000;
/**
 * A quarter of half a second on channel 10, after a program and a volume of its own: 120 BPM and 96 PPQ,
 * one bar of 4/4.
 */
const groove = songOf([
  channelEvent(0, 0xc9, 8),
  channelEvent(0, 0xb9, 7, 90),
  ...note(0, 48, 36, 100, 9),
  ...note(192, 48, 38, 100, 9),
]);
const clip = (how: Partial<Clip> = {}): Clip => ({
  song: { tracks: groove.tracks.map((t) => t.events), tempos: [], division: groove.division },
  program: undefined,
  drums: true,
  seconds: 2,
  loops: false,
  rate: 1,
  waits: false,
  ...how,
});

/** What is said at which sample, with a bar of the song every second. */
function heard(
  how: Partial<Clip>,
  seconds: number,
  begin = 0,
): { said: string[]; over: number | undefined } {
  let now = 0;
  let over: number | undefined;
  const said: string[] = [];
  const synth = {
    processMessage: (bytes: number[], offset: number) =>
      said.push(`${now} ${offset} ${bytes.map((b) => b.toString(16).padStart(2, '0')).join('')}`),
  } as unknown as SpessaSynthProcessor;
  const beside = new Beside(synth, 0, rate);
  for (; now < seconds * rate; now += 64) {
    if (now >= begin && now < begin + 64) beside.play(clip(how));
    const bar = now % rate < 64;
    if (beside.advance(64, bar)) over = now;
  }
  return { said, over };
}
const begun = (said: readonly string[]): number[] =>
  said.filter((s) => / 99....$/.test(s) && !s.endsWith('00')).map((s) => Number(s.split(' ')[0]));

it('a clip is heard once, and is over when its bars are', () => {
  const { said, over } = heard({}, 4);
  expect(begun(said)).toEqual([0, 48_000]);
  expect(over! / rate).toBeCloseTo(2, 1);
});

it('round and round it begins again with its bars, to the block', () => {
  const { said, over } = heard({ loops: true }, 6);
  expect(begun(said).length).toBe(6);
  begun(said).forEach((at, n) => expect(Math.abs(at - n * rate)).toBeLessThanOrEqual(64));
  expect(over).toBeUndefined();
});

it('at half the tempo it lasts twice as long', () => {
  expect(begun(heard({ rate: 0.5 }, 4).said).map((at) => Math.round(at / rate))).toEqual([0, 2]);
});

it('waits for the next bar of the song that plays', () => {
  const { said } = heard({ waits: true }, 4, 64 * 500);
  expect(begun(said)[0]! % rate).toBeLessThan(64);
  expect(begun(said)[0]).toBeGreaterThanOrEqual(rate);
});

it('another kit takes the place of its own, which is not said; what it turned goes back', () => {
  const { said } = heard({ program: 25 }, 4);
  const programs = said.filter((s) => / c9..$/.test(s)).map((s) => s.slice(-2));
  expect(new Set(programs)).toEqual(new Set(['19']));
  expect(said.some((s) => s.endsWith('b9075a'))).toBe(true);
  expect(said.some((s) => / c0..$/.test(s))).toBe(false);
});
