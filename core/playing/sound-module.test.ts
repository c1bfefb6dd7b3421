import { describe, expect, it } from 'vitest';
import { SoundModule } from './sound-module.ts';

const fed = (...messages: number[][]): SoundModule => {
  const module = new SoundModule();
  messages.forEach((bytes, n) => module.receive(bytes, n));
  return module;
};

describe('the sound module that comes along', () => {
  it('shows what each channel stands at, and which keys are held', () => {
    const { channels } = fed(
      ...[
        [0xb2, 0, 8],
        [0xb2, 32, 1],
        [0xc2, 11],
        [0xb2, 7, 90],
        [0xb2, 64, 64],
        [0xe2, 0, 96],
      ],
      ...[
        [0x92, 60, 80],
        [0x92, 64, 80],
        [0x92, 60, 0],
      ],
    );
    // Bend 96 * 128 - 8,192 = 4,096.
    expect(channels[2]).toMatchObject({
      program: 11,
      bank: [8, 1],
      volume: 90,
      damper: true,
      bend: 4096,
      keys: [64],
    });
    expect(channels[3]!.keys).toEqual([]);
  });

  it('falls silent at all sound off and all notes off, and forgets all at General MIDI on (RP-003)', () => {
    expect(fed([0x90, 60, 80], [0xb0, 123, 0]).channels[0]!.keys).toEqual([]);
    expect(fed([0x90, 60, 80], [0xb0, 120, 0]).channels[0]!.keys).toEqual([]);
    const module = fed([0xc0, 9], [0xb0, 7, 1], [0xf0, 0x7e, 0x7f, 9, 1, 0xf7]);
    expect(module.channels[0]).toMatchObject({ program: 0, volume: 100 });
  });

  it('counts clocks from the place it was told, and knows their tempo', () => {
    const module = new SoundModule();
    module.receive([0xf2, 16, 0], 0);
    module.receive([0xfb], 0);
    // 25 clocks 20 ms apart: a quarter of 480 ms is 125 BPM; they are four sixteenths and one clock.
    for (let n = 0; n <= 24; n++) module.receive([0xf8], n * 20);
    expect(module.tempo).toBeCloseTo(125, 9);
    expect(module.sixteenth).toBe(20);
    module.receive([0xfc], 500);
    for (let n = 0; n < 24; n++) module.receive([0xf8], 500 + n * 20);
    expect([module.runs, module.sixteenth]).toEqual([false, 20]);
  });

  it('takes nothing that is no whole message', () => {
    const module = fed([0x90, 60], [60, 60, 60], [0x90, 60, 200], [0xf0, 1, 2], [0xf5], []);
    expect([module.received, module.refused]).toEqual([6, 6]);
  });
});
