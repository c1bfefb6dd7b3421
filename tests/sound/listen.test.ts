import { expect, it } from 'vitest';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import type { Song } from '#core/song/song.ts';
import { sounds } from '../../tools/setup.mjs';
import { rate, rendered } from '../support/rendering.ts';
import { note, songOf } from '../support/songs.ts';

/** Times at which sound begins after silence. */
function onsets(samples: Float32Array): number[] {
  const times: number[] = [];
  let quiet = rate;
  samples.forEach((s, n) => {
    if (Math.abs(s) < 1e-4) return void quiet++;
    if (quiet > rate / 10) times.push(n / rate);
    quiet = 0;
  });
  return times;
}

// The sounds are installed by the test command where it may install packages.
it.skipIf(!sounds())(
  'songs are heard when they say: over a tempo change, and in files whose ticks are parts of frames',
  async () => {
    // Wood blocks, short and dry: key 76 of the drums.
    const blocks = (ticks: number[]): EventValue[] =>
      ticks.flatMap((tick) => note(tick, 20, 76, 110, 9));
    // 96 PPQ: one quarter at 120 BPM, then 60: beats at 0.5, 1.5 and 2.5 s.
    const tempo = songOf(
      [metaEvent(96, meta.tempo, Uint8Array.of(0x0f, 0x42, 0x40))],
      [channelEvent(0, 0xb9, 7, 127), ...blocks([96, 192, 288])],
    );
    // 25 frames of 40 ticks: 1,000 ticks a second.
    const frames: Song = {
      ...songOf(blocks([700, 1700, 2500])),
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
    };
    for (const [song, times] of [
      [tempo, [0.5, 1.5, 2.5]],
      [frames, [0.7, 1.7, 2.5]],
    ] as const) {
      const found = onsets(await rendered(song, 3));
      expect(found).toHaveLength(3);
      // A grid of 64 samples is 1.3 ms, and the sample itself may begin softly.
      found.forEach((at, i) => expect(Math.abs(at - times[i]!)).toBeLessThan(0.012));
    }
  },
);
