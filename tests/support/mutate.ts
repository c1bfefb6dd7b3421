import { concatBytes } from '#core/smf/chunks.ts';

/** One way of damaging a file; `chance` gives numbers from 0 to 1. */
type Damage = (file: Uint8Array, chance: () => number) => Uint8Array;

const at = (file: Uint8Array, chance: () => number): number => Math.floor(chance() * file.length);

function changed(file: Uint8Array, change: (copy: Uint8Array) => void): Uint8Array {
  const copy = file.slice();
  change(copy);
  return copy;
}

const damages: readonly Damage[] = [
  (f, c) => changed(f, (b) => void (b[at(f, c)]! ^= 1 << Math.floor(c() * 8))),
  (f, c) => changed(f, (b) => void (b[at(f, c)] = Math.floor(c() * 256))),
  (f, c) =>
    changed(
      f,
      (b) =>
        void (b[at(f, c)] = [0, 0x7f, 0x80, 0xff, 0xf0, 0xf7, 0x2f, 0x90][Math.floor(c() * 8)]!),
    ),
  (f, c) => f.slice(0, at(f, c)),
  (f, c) => f.slice(at(f, c)),
  (f, c) => {
    const from = at(f, c);
    return concatBytes([f.slice(0, from), f.slice(from + 1 + Math.floor(c() * 20))]);
  },
  (f, c) => {
    const from = at(f, c);
    return concatBytes([
      f.slice(0, from),
      Uint8Array.from({ length: 1 + Math.floor(c() * 20) }, () => c() * 256),
      f.slice(from),
    ]);
  },
  (f, c) => {
    const [a, b] = [at(f, c), at(f, c)];
    return concatBytes([f.slice(0, a), f.slice(b, b + Math.floor(c() * 60)), f.slice(a)]);
  },
  (f, c) => changed(f, (b) => b.fill(0xff, at(f, c), at(f, c) + 4)),
];

/** The file with one to four damages. */
export function mutate(file: Uint8Array, chance: () => number): Uint8Array {
  let result = file;
  for (let n = 1 + Math.floor(chance() * 4); n > 0 && result.length > 0; n--)
    result = damages[Math.floor(chance() * damages.length)]!(result, chance);
  return result;
}
