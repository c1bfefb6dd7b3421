import type { BasicSoundBank } from 'spessasynth_core';
import type { SoundNeeded } from '#core/playing/needs.ts';

/** While it plays, a key is made ready no oftener than every so many blocks: each takes its time from the sound. */
const blocksBetween = 16;

/** Makes sounds ready before they are needed: the first note of a compressed sample would otherwise wait for it. */
export class Readying {
  private wanted: (() => void)[] = [];
  private blocks = 0;

  /** Sounds of a song, from a bank, in the place of those that were wanted before. */
  want(from: BasicSoundBank | undefined, sounds: readonly SoundNeeded[]): void {
    if (!from) return;
    this.wanted = sounds.flatMap(({ drums, bank, program, keys }) =>
      Array.from({ length: keys.length / 3 }, (_, n) => (): void => {
        const preset = from.getPreset(
          { isGMGSDrum: drums, bankMSB: bank[0], bankLSB: bank[1], program },
          'gs',
        );
        for (const velocity of keys.slice(n * 3 + 1, n * 3 + 3))
          for (const voice of preset.getVoiceParameters(keys[n * 3]!, velocity))
            voice.sample.getAudioData();
      }),
    );
    this.wanted.reverse();
  }

  /** These at once, before those that wait. */
  now(from: BasicSoundBank | undefined, sounds: readonly SoundNeeded[]): void {
    const { wanted } = this;
    this.want(from, sounds);
    if (from) this.all();
    this.wanted = wanted;
  }

  all(): void {
    while (this.wanted.length > 0) this.wanted.pop()!();
  }

  /** A little of it, with each block of sound. */
  next(playing: boolean): void {
    if (playing && this.blocks++ % blocksBetween !== 0) return;
    this.wanted.pop()?.();
  }
}
