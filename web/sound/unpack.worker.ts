import { expose, transfer } from 'comlink';
import type { SoundNeeded } from '#core/playing/needs.ts';
import { Unpacking } from './unpack.ts';

const unpacking = new Unpacking();

/** Unpacks samples in a thread of its own. */
expose({
  take: (bytes: ArrayBuffer) => unpacking.take(bytes),
  unpack(sounds: readonly SoundNeeded[]) {
    const unpacked = unpacking.unpack(sounds);
    return transfer(
      unpacked,
      unpacked.map((u) => u.data.buffer),
    );
  },
});
