import { concatBytes } from '#core/smf/chunks.ts';

/**
 * Where a file was damaged, in bytes of the whole file: from, up to and not including, to. Empty where only
 * something was put in between.
 */
export interface Damaged {
  readonly bytes: Uint8Array;
  readonly from: number;
  readonly to: number;
}

type Chance = () => number;
type Damage = (file: Uint8Array, chance: Chance) => Damaged;

const place = (file: Uint8Array, chance: Chance): number => Math.floor(chance() * file.length);

function replaced(file: Uint8Array, from: number, to: number, by: Uint8Array): Damaged {
  return { bytes: concatBytes([file.subarray(0, from), by, file.subarray(to)]), from, to };
}

const noise = (chance: Chance, length: number): Uint8Array =>
  Uint8Array.from({ length }, () => chance() * 256);

/** Places of the track chunks' heads. */
export function trackHeads(file: Uint8Array): number[] {
  const view = new DataView(file.buffer, file.byteOffset, file.byteLength);
  const heads: number[] = [];
  for (let at = 8 + view.getUint32(4); at + 8 <= file.length; at += 8 + view.getUint32(at + 4))
    heads.push(at);
  return heads;
}

const anyTrack = (file: Uint8Array, chance: Chance): number => {
  const heads = trackHeads(file);
  return heads[Math.floor(chance() * heads.length)]!;
};

/** Ten kinds of damage, as bad disks, lines and programs make them. */
export const damages: Readonly<Record<string, Damage>> = {
  'a bit turned': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, at + 1, Uint8Array.of(f[at]! ^ (1 << Math.floor(c() * 8))));
  },
  'a byte replaced': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, at + 1, noise(c, 1));
  },
  'a byte dropped': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, at + 1, new Uint8Array(0));
  },
  'a byte put in': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, at, noise(c, 1));
  },
  'a stretch dropped': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, Math.min(f.length, at + 2 + Math.floor(c() * 30)), new Uint8Array(0));
  },
  'noise put in': (f, c) => {
    const at = place(f, c);
    return replaced(f, at, at, noise(c, 2 + Math.floor(c() * 30)));
  },
  'a stretch of zeros': (f, c) => {
    const at = place(f, c);
    const to = Math.min(f.length, at + 8 + Math.floor(c() * 56));
    return replaced(f, at, to, new Uint8Array(to - at));
  },
  'cut off': (f, c) => replaced(f, place(f, c), f.length, new Uint8Array(0)),
  'a wrong length of a track': (f, c) => {
    const at = anyTrack(f, c) + 4;
    return replaced(
      f,
      at,
      at + 4,
      c() < 0.5 ? noise(c, 4) : Uint8Array.of(0, 0, Math.floor(c() * 256), Math.floor(c() * 256)),
    );
  },
  'a damaged head': (f, c) => {
    const at = c() < 0.5 ? Math.floor(c() * 8) : anyTrack(f, c) + Math.floor(c() * 4);
    return replaced(f, at, at + 1, Uint8Array.of(f[at]! ^ (1 << Math.floor(c() * 8))));
  },
};

/** A note of a file and where the bytes of its two events lie. */
export interface PlacedNote {
  readonly text: string;
  readonly on: readonly [number, number];
  readonly off: readonly [number, number];
}

/**
 * The notes of a sound file with their bytes, by a plain reading of SMF 1.0 that shares nothing with ours:
 * first on, first off of a key. A note's text is its track's place among tracks with notes left out:
 * channel, key, ticks, velocity.
 */
export function placedNotes(file: Uint8Array): PlacedNote[] {
  const notes: PlacedNote[] = [];
  for (const head of trackHeads(file)) {
    if (file[head] !== 0x4d || file[head + 1] !== 0x54 || file[head + 2] !== 0x72) continue;
    const end = head + 8 + new DataView(file.buffer, file.byteOffset).getUint32(head + 4);
    notesOfTrack(file, head + 8, end, notes);
  }
  return notes;
}

function notesOfTrack(file: Uint8Array, from: number, end: number, notes: PlacedNote[]): void {
  const open = new Map<number, { tick: number; velocity: number; on: [number, number] }[]>();
  let [at, tick, status] = [from, 0, 0];
  const quantity = (): number => {
    let value = 0;
    for (;;) {
      const byte = file[at++]!;
      value = value * 128 + (byte & 0x7f);
      if (byte < 0x80) return value;
    }
  };
  while (at < end) {
    const start = at;
    tick += quantity();
    if (file[at]! >= 0x80) status = file[at++]!;
    if (status >= 0xf0) {
      if (status === 0xff) at++;
      const length = quantity();
      at += length;
      continue;
    }
    const [key, value] = [file[at]!, file[at + 1]!];
    at += (status & 0xe0) === 0xc0 ? 1 : 2;
    const id = ((status & 15) << 7) | key;
    if (status >> 4 === 9 && value > 0) {
      const waiting = open.get(id);
      if (waiting) waiting.push({ tick, velocity: value, on: [start, at] });
      else open.set(id, [{ tick, velocity: value, on: [start, at] }]);
    } else if (status >> 4 === 8 || status >> 4 === 9) {
      const note = open.get(id)?.shift();
      if (note)
        notes.push({
          text: noteText(status & 15, key, note.tick, tick, note.velocity),
          on: note.on,
          off: [start, at],
        });
    }
  }
}

export const noteText = (
  channel: number,
  key: number,
  from: number,
  to: number,
  velocity: number,
): string => `${channel} ${key} ${from} ${to} ${velocity}`;

/** Notes none of whose bytes were touched; what is put in between two bytes of an event touches it. */
export function untouched(notes: readonly PlacedNote[], { from, to }: Damaged): string[] {
  const clear = ([a, b]: readonly [number, number]): boolean =>
    from === to ? from <= a || from >= b : to <= a || from >= b;
  return notes.filter((n) => clear(n.on) && clear(n.off)).map((n) => n.text);
}
