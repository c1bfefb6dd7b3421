import { readFileSync } from 'node:fs';
import { BasicSoundBank, SoundBankLoader, SpessaSynthProcessor } from 'spessasynth_core';
import { Layers } from '#core/playing/layers.ts';
import { Player } from '#core/playing/player.ts';
import { portsOf } from '#core/playing/ports.ts';
import type { Song } from '#core/song/song.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { tempoMap } from '#core/timing/tempo-map.ts';
import { exactBend } from '../../web/sound/exact-bend.ts';
import { plainFile } from './plain-bank.ts';
import { sounds } from '../../tools/setup.mjs';

export const rate = 48_000;
const grid = 64;

let shipped: Promise<BasicSoundBank> | undefined;
/** The sounds that come along. */
const shippedBank = (): Promise<BasicSoundBank> =>
  (shipped ??= (async () => {
    await BasicSoundBank.isSF3DecoderReady;
    const file = readFileSync(sounds()!);
    return SoundBankLoader.fromArrayBuffer(
      file.buffer.slice(file.byteOffset, file.byteOffset + file.length),
    );
  })());

const plainBank = (): BasicSoundBank => SoundBankLoader.fromArrayBuffer(plainFile());

interface How {
  /** A plain wave in the place of the sounds that come along. */
  readonly plain?: boolean;
  /** Seconds of the song at which it begins. */
  readonly from?: number;
  /** What is done to the player at a time, in seconds from the beginning of the sound. */
  readonly at?: readonly (readonly [seconds: number, act: (player: Player) => void])[];
}

/**
 * What is heard of a song in some seconds, as the page's synthesizer makes it, without its reverb: events every
 * 64 samples; both sides added up.
 */
export async function rendered(
  song: Song,
  seconds: number,
  { plain = false, from = 0, at = [] }: How = {},
): Promise<Float32Array> {
  const synth = new SpessaSynthProcessor(rate, { eventsEnabled: false, effectsEnabled: false });
  await synth.processorInitialized;
  synth.soundBankManager.addSoundBank(
    exactBend(await (plain ? plainBank() : shippedBank())),
    'main',
  );
  const tracks = song.tracks.map((t) => t.events);
  const to = new Layers(
    tracks,
    portsOf(tracks),
    (n) => {
      while (synth.midiChannels.length < (n + 1) * 16) {
        synth.createMIDIChannel();
        if (synth.midiChannels.length % 16 === 10) synth.midiChannels.at(-1)!.setDrums(true);
      }
      return {
        message: (status, data1, data2) => synth.processMessage([status, data1, data2], n * 16),
        systemExclusive: (bytes) => synth.processMessage([0xf0, ...bytes], n * 16),
      };
    },
    () => synth.reset(),
  );
  const player = new Player(tracks, tempoMap(timingOf(song).tempos, song.division), to);
  player.seek(from);
  const acts = [...at];
  const left = new Float32Array(Math.ceil((seconds * rate) / grid) * grid);
  const right = new Float32Array(left.length);
  for (let n = 0; n < left.length; n += grid) {
    while (acts[0] && acts[0][0] <= n / rate) acts.shift()![1](player);
    player.advance(from + (n + grid) / rate);
    synth.process(left.subarray(n, n + grid), right.subarray(n, n + grid), 0, grid);
  }
  return left.map((s, n) => s + right[n]!);
}

/** A span of what was heard, in seconds. */
export const between = (samples: Float32Array, from: number, to: number): Float32Array =>
  samples.subarray(Math.round(from * rate), Math.round(to * rate));

export const loudness = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, s) => sum + s * s, 0) / samples.length);

/** How loud the second is beside the first, in decibels. */
export const decibels = (a: Float32Array, b: Float32Array): number =>
  20 * Math.log10(loudness(b) / loudness(a));

/** How much of a frequency is there: the Fourier sum over a Hann window. */
function amount(samples: Float32Array, hertz: number): number {
  const step = (2 * Math.PI * hertz) / rate;
  let [re, im] = [0, 0];
  samples.forEach((s, n) => {
    const weight = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / samples.length);
    re += s * weight * Math.cos(step * n);
    im += s * weight * Math.sin(step * n);
  });
  return Math.hypot(re, im);
}

/**
 * The pitch in Hz near the one that is expected: the middle of the energy around the loudest partial within 40
 * Hz. Voices of one patch beat by
 * up to a hertz, so that the loudest frequency alone wavers.
 */
export function pitchNear(samples: Float32Array, expected: number): number {
  let [about, most] = [expected, 0];
  for (let hertz = expected - 40; hertz <= expected + 40; hertz++) {
    const there = amount(samples, hertz);
    if (there > most) [about, most] = [hertz, there];
  }
  let [sum, all] = [0, 0];
  for (let hertz = about - 6; hertz <= about + 6; hertz += 0.25) {
    const energy = amount(samples, hertz) ** 2;
    sum += energy * hertz;
    all += energy;
  }
  return sum / all;
}

/** The spectral centroid in Hz, over semitones from A1 to A8. */
export function centroid(samples: Float32Array): number {
  let [sum, all] = [0, 0];
  for (let key = 33; key <= 117; key++) {
    const hertz = 440 * 2 ** ((key - 69) / 12);
    const there = amount(samples, hertz);
    sum += there * hertz;
    all += there;
  }
  return sum / all;
}
