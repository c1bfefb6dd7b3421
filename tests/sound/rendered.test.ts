import { describe, expect, it } from 'vitest';
import { channelEvent, type EventValue } from '#core/smf/events.ts';
import { sounds } from '../../tools/setup.mjs';
import {
  between,
  centroid,
  decibels,
  loudness,
  pitchNear,
  rendered,
} from '../support/rendering.ts';
import { controller, note, songOf } from '../support/songs.ts';

// 120 BPM and 96 PPQ: 192 ticks a second.
const second = 192;
const program = (number: number, channel = 0): EventValue =>
  channelEvent(0, 0xc0 | channel, number, 0);
const bend = (tick: number, to: number): EventValue =>
  channelEvent(tick, 0xe0, (to + 8192) & 127, (to + 8192) >> 7);
/** The plainest wave of General MIDI. */
const squareLead = 80;
const a4 = (length = 4 * second): EventValue[] => note(0, length, 69, 100);
const line = (...events: EventValue[]) => songOf([program(squareLead), ...events]);

// The sounds are installed by the test command where it may install packages.
describe.skipIf(!sounds())('what is heard', () => {
  it('A4 is 440 Hz (ISO 16)', async () => {
    const heard = await rendered(line(...a4()), 2, { plain: true });
    expect(Math.abs(pitchNear(between(heard, 0.5, 1.5), 440) - 440)).toBeLessThan(0.5);
  });

  it('two programs differ: a trumpet is brighter than a flute', async () => {
    const [flute, trumpet] = await Promise.all(
      [73, 56].map(async (p) =>
        centroid(between(await rendered(songOf([program(p), ...a4()]), 1), 0.05, 0.6)),
      ),
    );
    expect(trumpet! / flute!).toBeGreaterThan(1.25);
  });

  it('bend goes two semitones up and down, or as many as RPN 0 says (MIDI 1.0)', async () => {
    const played = (...events: EventValue[]) =>
      rendered(line(...events, ...a4()), 2, { plain: true });
    const cents = async (expected: number, ...events: EventValue[]): Promise<number> =>
      1200 * Math.log2(pitchNear(between(await played(...events), 0.5, 1.5), expected) / 440);
    expect(Math.abs((await cents(494, bend(0, 8191))) - 200)).toBeLessThan(1.1);
    expect(Math.abs((await cents(392, bend(0, -8192))) + 200)).toBeLessThan(1.1);
    const range = [controller(0, 101, 0), controller(0, 100, 0), controller(0, 6, 12)];
    expect(Math.abs((await cents(880, ...range, bend(0, 8191))) - 1200)).toBeLessThan(1.1);
  });

  it.each([
    ['volume', 7],
    ['expression', 11],
  ])('%s of 64 is 11.9 dB below 127 (General MIDI: 40 log10(value / 127))', async (_, number) => {
    const [full, half] = await Promise.all(
      [127, 64].map(async (value) =>
        between(await rendered(line(controller(0, number, value), ...a4()), 1), 0.3, 0.9),
      ),
    );
    expect(Math.abs(decibels(full!, half!) - 40 * Math.log10(64 / 127))).toBeLessThan(0.5);
  });

  it('a damper keeps notes until it is let go', async () => {
    const held = line(controller(0, 64, 127), ...a4(second), controller(2 * second, 64, 0));
    const heard = await rendered(held, 3);
    expect(loudness(between(heard, 1.4, 1.9))).toBeGreaterThan(0.01);
    expect(loudness(between(heard, 2.7, 3))).toBeLessThan(1e-3);
  });

  it('silenced tracks fall silent at once, damper or not, while one on the same channel rings on', async () => {
    // Two parts on channel 1 under one damper: A4, and E5 that is silenced after a second.
    const two = songOf(
      [program(squareLead), controller(0, 64, 127), ...a4(second / 2)],
      note(0, second / 2, 76, 100),
    );
    const alone = songOf([program(squareLead), controller(0, 64, 127), ...a4(second / 2)]);
    const heard = await rendered(two, 2, { at: [[1, (p) => p.leaveOut(new Set([1]))]] });
    const wanted = await rendered(alone, 2);
    const rest = between(heard, 1.1, 2).map((s, n) => s - between(wanted, 1.1, 2)[n]!);
    expect(loudness(between(wanted, 1.1, 2))).toBeGreaterThan(0.01);
    expect(20 * Math.log10(loudness(rest) / loudness(between(wanted, 1.1, 2)))).toBeLessThan(-40);
    // And all of them: nothing is heard.
    const none = await rendered(two, 2, { at: [[1, (p) => p.leaveOut(new Set([0, 1]))]] });
    expect(loudness(between(none, 1.1, 2))).toBeLessThan(1e-4);
  });

  it('an open hi-hat is choked by a closed one of another track: drums stay together', async () => {
    const open = note(0, 2 * second, 46, 110, 9);
    const choked = await rendered(songOf(open, note(second / 2, 20, 42, 1, 9)), 1);
    const rings = await rendered(songOf(open), 1);
    expect(decibels(between(rings, 0.6, 0.9), between(choked, 0.6, 0.9))).toBeLessThan(-12);
  });

  it('what begins in the middle sounds as if it had been played up to there', async () => {
    // Volume, bend range, bend and another program before; a note behind 2 s.
    const song = songOf(
      [
        program(squareLead),
        ...a4(second),
        controller(second, 7, 50),
        channelEvent(second, 0xc0, 19, 0),
      ],
      [
        controller(second, 101, 0),
        controller(second, 100, 0),
        controller(second, 6, 12),
        bend(second + 1, 4096),
        ...note(2 * second + 10, second, 69, 100),
      ],
    );
    const through = between(await rendered(song, 3.2, { plain: true }), 2, 3.2);
    const middle = await rendered(song, 1.2, { plain: true, from: 2 });
    expect(Math.abs(decibels(between(through, 0.2, 0.9), between(middle, 0.2, 0.9)))).toBeLessThan(
      0.2,
    );
    // Half of twelve semitones up: 622.25 Hz.
    for (const heard of [through, middle])
      expect(Math.abs(pitchNear(between(heard, 0.2, 0.9), 622.25) - 622.25)).toBeLessThan(1);
  });
});
