import { transfer, wrap, type Remote } from 'comlink';
import type { SoundNeeded } from '#core/playing/needs.ts';
import type { Unpacked, Unpacking } from './unpack.ts';

/** A larger bank is not held twice: its samples are unpacked where they are heard. */
const mostBytes = 200_000_000;

let worker: Remote<Unpacking> | undefined;
let has = false;

const theWorker = (): Remote<Unpacking> =>
  (worker ??= wrap<Unpacking>(
    new Worker(new URL('./unpack.worker.ts', import.meta.url), { type: 'module' }),
  ));

/** Takes the bank that is heard from now on; what is given stays. */
export async function bankToUnpack(bytes: ArrayBuffer): Promise<void> {
  has = bytes.byteLength <= mostBytes;
  if (!has) return;
  const copy = bytes.slice(0);
  // A bank that cannot be unpacked here is said where it is heard.
  await theWorker()
    .take(transfer(copy, [copy]))
    .catch(() => (has = false));
}

/** The samples that sounds need and that were not unpacked yet. */
export const unpacked = async (sounds: readonly SoundNeeded[]): Promise<readonly Unpacked[]> =>
  has
    ? theWorker()
        .unpack(sounds)
        .catch((): Unpacked[] => [])
    : [];
