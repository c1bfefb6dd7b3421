import { BasicSoundBank, SoundBankLoader } from 'spessasynth_core';
import type { SoundNeeded } from '#core/playing/needs.ts';

/** A sample that was unpacked: its number in its bank, and its sound. */
export interface Unpacked {
  readonly sample: number;
  readonly rate: number;
  readonly data: Float32Array<ArrayBuffer>;
}

/** Unpacks compressed samples of a bank beside the thread that makes the sound, which would fall silent for it. */
export class Unpacking {
  private bank: BasicSoundBank | undefined;
  private done = new Set<number>();

  async take(bytes: ArrayBuffer): Promise<void> {
    await BasicSoundBank.isSF3DecoderReady;
    this.bank = SoundBankLoader.fromArrayBuffer(bytes);
    this.done = new Set();
  }

  /** The samples of sounds that were not unpacked before. */
  unpack(sounds: readonly SoundNeeded[]): Unpacked[] {
    const { bank } = this;
    if (!bank) return [];
    const unpacked: Unpacked[] = [];
    for (const { drums, bank: number, program, keys } of sounds) {
      const preset = bank.getPreset(
        { isGMGSDrum: drums, bankMSB: number[0], bankLSB: number[1], program },
        'gs',
      );
      for (let n = 0; n < keys.length; n += 3)
        for (const velocity of keys.slice(n + 1, n + 3))
          for (const { sample } of preset.getVoiceParameters(keys[n]!, velocity)) {
            const at = bank.samples.indexOf(sample);
            if (this.done.has(at) || !sample.isCompressed) continue;
            this.done.add(at);
            const data = sample.getAudioData()?.slice();
            if (data) unpacked.push({ sample: at, rate: sample.sampleRate, data });
          }
    }
    return unpacked;
  }
}
