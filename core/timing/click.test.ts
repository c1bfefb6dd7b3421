import wavefile from 'wavefile';
import { describe, expect, it } from 'vitest';
import { clicksOf } from './click.ts';
import { clickFile } from './click-track.ts';

const ppq = { kind: 'ppq', ticksPerQuarter: 480 } as const;
/** 120 BPM, two bars of 4/4 and one of 7/8: clicks every half second, then every quarter of one. */
const song = {
  meters: [
    { atTick: 0, numerator: 4, denominator: 4 },
    { atTick: 3840, numerator: 7, denominator: 8 },
  ],
  tempos: [],
  division: ppq,
  endTick: 3840 + 7 * 240,
};

/** Onsets and heights of the clicks as an independent reader (npm `wavefile`) has the samples. */
function onsets(file: Uint8Array): {
  at: number[];
  wav: InstanceType<typeof wavefile.WaveFile>;
  samples: Float64Array;
} {
  const wav = new wavefile.WaveFile(file);
  const samples = wav.getSamples(false) as unknown as Float64Array;
  const at: number[] = [];
  for (let n = 0; n < samples.length; n++)
    if (
      Math.abs(samples[n]!) > 0 &&
      (n === 0 || samples.slice(Math.max(0, n - 200), n).every((s) => s === 0))
    )
      at.push(n);
  return { at, wav, samples };
}

describe('the click', () => {
  it('knows bars, beats and what lies between', () => {
    expect(
      clicksOf(song.meters, ppq, song.endTick, 1)!
        .map((c) => [c.atTick, c.kind])
        .slice(0, 10),
    ).toEqual([
      [0, 'bar'],
      [480, 'beat'],
      [960, 'beat'],
      [1440, 'beat'],
      [1920, 'bar'],
      [2400, 'beat'],
      [2880, 'beat'],
      [3360, 'beat'],
      [3840, 'bar'],
      [4080, 'beat'],
    ]);
    expect(clicksOf(song.meters, ppq, 960, 2)!.map((c) => c.kind)).toEqual([
      'bar',
      'between',
      'beat',
      'between',
    ]);
    expect(clicksOf(song.meters, ppq, 480 * 50_000, 1)).toBeUndefined();
  });

  it('clicks dotted quarters where eighths come by threes and that is asked; 3/8 and 7/8 stay in eighths', () => {
    const at = (numerator: number, dotted: boolean) =>
      clicksOf([{ atTick: 0, numerator, denominator: 8 }], ppq, numerator * 240, 1, dotted)!.map(
        (c) => c.atTick,
      );
    expect([at(6, true), at(6, false)]).toEqual([
      [0, 720],
      [0, 240, 480, 720, 960, 1200],
    ]);
    expect([at(3, true), at(7, true)].map((clicks) => clicks.length)).toEqual([3, 7]);
    // Two bars of 6/8 at 120 quarters a minute, a bar counted in: a click every 0.75 s.
    const file = clickFile(
      { ...song, meters: [{ atTick: 0, numerator: 6, denominator: 8 }], endTick: 2880 },
      { parts: 1, dotted: true, countIn: 1, rate: 48_000, bits: 16 },
    ) as Uint8Array;
    expect(onsets(file).at).toEqual([0, 1, 2, 3, 4, 5].map((n) => n * 36_000));
  });

  it.each([
    [44_100, 16],
    [44_100, 24],
    [48_000, 16],
    [48_000, 24],
  ] as const)(
    'as a WAV file at %i Hz with %i bits begins each on its sample (by hand: half a second is %i/2 samples)',
    (rate, bits) => {
      const { at, wav, samples } = onsets(
        clickFile(song, { parts: 1, dotted: false, countIn: 0, rate, bits }) as Uint8Array,
      );
      expect(at).toEqual([
        ...Array.from({ length: 8 }, (_, i) => (i * rate) / 2),
        ...Array.from({ length: 7 }, (_, i) => 4 * rate + (i * rate) / 4),
      ]);
      const { sampleRate, numChannels, bitsPerSample } = wav.fmt as {
        sampleRate: number;
        numChannels: number;
        bitsPerSample: number;
      };
      expect([sampleRate, numChannels, bitsPerSample]).toEqual([rate, 1, bits]);
      expect(samples).toHaveLength(Math.ceil(5.75 * rate));
      const full = 2 ** (bits - 1);
      expect(Math.abs(samples[0]!) / full).toBeCloseTo(0.9, 2);
      expect(Math.abs(samples[rate / 2]!) / full).toBeCloseTo(0.6, 2);
    },
  );

  it('counts in before bar 1, in its meter and tempo', () => {
    const { at } = onsets(
      clickFile(
        { ...song, endTick: 1920 },
        { parts: 1, dotted: false, countIn: 1, rate: 48_000, bits: 16 },
      ) as Uint8Array,
    );
    expect(at).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((n) => n * 24_000));
  });

  it('keeps with changing tempos (facts: bar 5 at 120 BPM is sample 384,000 at 48 kHz)', () => {
    const file = clickFile(
      {
        ...song,
        meters: [],
        tempos: [
          { atTick: 0, tempo: 500_000 },
          { atTick: 4 * 1920, tempo: 1_000_000 },
        ],
        endTick: 5 * 1920,
      },
      { parts: 1, dotted: false, countIn: 0, rate: 48_000, bits: 16 },
    ) as Uint8Array;
    expect(onsets(file).at.slice(-4)).toEqual([384_000, 432_000, 480_000, 528_000]);
  });

  it('says what is too long and what has no length', () => {
    expect(
      clickFile(
        { ...song, endTick: 480 * 2 * 3601 },
        { parts: 1, dotted: false, countIn: 0, rate: 48_000, bits: 24 },
      ),
    ).toBe('too long');
    expect(
      clickFile(
        { ...song, endTick: 0 },
        { parts: 1, dotted: false, countIn: 0, rate: 48_000, bits: 24 },
      ),
    ).toBe('no length');
  });
});
