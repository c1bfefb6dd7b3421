import type { Click, ClickKind } from './click.ts';

export interface WaveSettings {
  readonly rate: 44_100 | 48_000;
  readonly bits: 16 | 24;
}

/** Pitch in hertz and loudness of the clicks: a short sine that dies away, told apart by ear at once. */
const sounds: Readonly<Record<ClickKind, { hertz: number; gain: number }>> = {
  bar: { hertz: 1760, gain: 0.9 },
  beat: { hertz: 1320, gain: 0.6 },
  between: { hertz: 990, gain: 0.3 },
};
const clickSeconds = 0.04;

/** A sine at its full height from the first sample, so that the onset is where it is said to be. */
function burst(kind: ClickKind, rate: number): Float32Array {
  const { hertz, gain } = sounds[kind];
  return Float32Array.from(
    { length: Math.round(clickSeconds * rate) },
    (_, n) =>
      gain *
      Math.cos((2 * Math.PI * hertz * n) / rate) *
      Math.exp((-7 * n) / (clickSeconds * rate)),
  );
}

/**
 * Clicks as a mono WAV file (RIFF, PCM): each begins on the sample nearest to its time.
 * @param clicks kind and time in seconds, ascending.
 * @param seconds length of the whole.
 */
export function clickWave(
  clicks: readonly (Pick<Click, 'kind'> & { readonly seconds: number })[],
  seconds: number,
  { rate, bits }: WaveSettings,
): Uint8Array {
  const samples = Math.ceil(seconds * rate);
  const bytes = bits / 8;
  const file = new Uint8Array(44 + samples * bytes + ((samples * bytes) % 2));
  writeHeader(new DataView(file.buffer), samples * bytes, rate, bits);
  const bursts = {
    bar: burst('bar', rate),
    beat: burst('beat', rate),
    between: burst('between', rate),
  };
  const full = 2 ** (bits - 1) - 1;
  clicks.forEach(({ kind, seconds: at }, i) => {
    const first = Math.round(at * rate);
    // A click ends where the next begins.
    const end = Math.min(
      samples,
      first + bursts[kind].length,
      i + 1 < clicks.length ? Math.round(clicks[i + 1]!.seconds * rate) : samples,
    );
    for (let n = Math.max(0, first); n < end; n++) {
      const value = Math.round(bursts[kind][n - first]! * full);
      const place = 44 + n * bytes;
      for (let b = 0; b < bytes; b++) file[place + b] = (value >> (8 * b)) & 255;
    }
  });
  return file;
}

/** RIFF header of PCM audio: one channel, little-endian (multimedia programming interface of 1991; from memory). */
function writeHeader(view: DataView, data: number, rate: number, bits: number): void {
  const word = (at: number, text: string): void =>
    [...text].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  word(0, 'RIFF');
  view.setUint32(4, 36 + data + (data % 2), true);
  word(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * (bits / 8), true);
  view.setUint16(32, bits / 8, true);
  view.setUint16(34, bits, true);
  word(36, 'data');
  view.setUint32(40, data, true);
}
