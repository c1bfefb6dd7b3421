import type { Result } from '../problems/problems.ts';

/** What a sound bank holds, as far as its presets go. */
export interface BankHeld {
  readonly format: 'SF2' | 'SF3';
  readonly presets: number;
  /** General MIDI programs, from 0, for which it has no preset in bank 0. */
  readonly missing: readonly number[];
  /** Whether it has kits: presets in bank 128. */
  readonly drums: boolean;
}

/** Reads bytes of a file: as many as are there, at most so many. */
export type ReadAt = (at: number, length: number) => Promise<Uint8Array>;

interface Chunk {
  readonly name: string;
  /** Where its data begins, and how many bytes of it are said to be there. */
  readonly at: number;
  readonly length: number;
}

/** Lengths of records of the hydra (SoundFont Technical Specification 2.04, section 7). */
const records: Readonly<Record<string, number>> = {
  phdr: 38,
  pbag: 4,
  pmod: 10,
  pgen: 4,
  inst: 22,
  ibag: 4,
  imod: 10,
  igen: 4,
  shdr: 46,
};
/** Samples that are compressed (Ogg Vorbis) have this bit in their type: an addition to the format that SF3 made. */
const compressed = 0x10;
const kits = 128;
const mostPresetBytes = 38 * 100_000;
const mostSampleBytes = 46 * 1_000_000;

/**
 * What a sound bank holds (SoundFont 2.01 to 2.04, or SF3, which is the same with compressed samples), read
 * from its structure alone: its samples are not touched, however large it is. A file that is none, or that
 * ends before it says it does, is refused with what was found where.
 */
export async function readBank(read: ReadAt, length: number): Promise<Result<BankHeld>> {
  const head = await read(0, 12);
  if (text(head, 0) !== 'RIFF' || text(head, 8) !== 'sfbk')
    return refuse('a RIFF file of the kind "sfbk"', startsWith(head));
  const whole = 8 + u32(head, 4);
  if (whole > length)
    return refuse(`${spaced(whole)} bytes`, `${spaced(length)}: its end is missing`);
  const lists = new Map<string, readonly Chunk[]>();
  for (const chunk of await chunksIn(read, 12, whole))
    if (chunk.name === 'LIST') {
      const kind = text(await read(chunk.at, 4), 0);
      lists.set(kind, await chunksIn(read, chunk.at + 4, chunk.at + chunk.length));
    }
  const absent = ['INFO', 'sdta', 'pdta'].find((kind) => !lists.has(kind));
  if (absent) return refuse(`a list "${absent}"`, onlyThese(lists.keys()));
  const hydra = new Map(lists.get('pdta')!.map((chunk) => [chunk.name, chunk]));
  for (const [name, size] of Object.entries(records)) {
    const chunk = hydra.get(name);
    if (!chunk) return refuse(`a chunk "${name}"`, onlyThese(hydra.keys()));
    if (chunk.length % size !== 0 || chunk.length < size)
      return refuse(`"${name}" in records of ${size} bytes`, `${spaced(chunk.length)} bytes`);
  }
  const samples = lists.get('sdta')!.find((chunk) => chunk.name === 'smpl');
  const [phdr, shdr] = [hydra.get('phdr')!, hydra.get('shdr')!];
  if (phdr.length > mostPresetBytes || shdr.length > mostSampleBytes)
    return refuse('presets and samples that a person could have made', 'more of them');
  const fault = sampleFault(await read(shdr.at, shdr.length), samples?.length ?? 0);
  if (typeof fault === 'string') return refuse('samples that lie within the file', fault);
  const presets = presetsIn(await read(phdr.at, phdr.length));
  if (presets.length === 0) return refuse('at least one preset', 'none');
  const programs = new Set(presets.filter((p) => p.bank === 0).map((p) => p.program));
  return {
    ok: true,
    value: {
      format: fault.compressed ? 'SF3' : 'SF2',
      presets: presets.length,
      missing: Array.from({ length: 128 }, (_, n) => n).filter((n) => !programs.has(n)),
      drums: presets.some((p) => p.bank === kits),
    },
  };
}

const refuse = (expected: string, found: string): Result<never> => ({
  ok: false,
  problem: { code: 'bank-unreadable', where: {}, expected, found },
});

async function chunksIn(read: ReadAt, from: number, end: number): Promise<Chunk[]> {
  const chunks: Chunk[] = [];
  for (let at = from; at + 8 <= end && chunks.length < 10_000;) {
    let head = await read(at, 8);
    // Chunks begin at even places; banks with compressed samples are about that do not keep to it.
    const last = chunks.at(-1);
    if (last && (last.length & 1) === 1 && !isName(text(head, 0))) head = await read(--at, 8);
    const length = u32(head, 4);
    if (at + 8 + length > end) break;
    chunks.push({ name: text(head, 0), at: at + 8, length });
    at += 8 + length + (length & 1);
  }
  return chunks;
}

/** The presets of a bank but the last record, which ends the list. */
function presetsIn(bytes: Uint8Array): { program: number; bank: number }[] {
  return Array.from({ length: bytes.length / records.phdr! - 1 }, (_, n) => ({
    program: u16(bytes, n * records.phdr! + 20),
    bank: u16(bytes, n * records.phdr! + 22),
  }));
}

/**
 * Whether samples are compressed; in words, where one lies behind the end of what is there. Places are counted
 * in samples of two bytes, in bytes where they are compressed.
 */
function sampleFault(bytes: Uint8Array, length: number): { compressed: boolean } | string {
  const size = records.shdr!;
  let any = false;
  for (let at = 0; at + 2 * size <= bytes.length; at += size) {
    const kind = u16(bytes, at + 44);
    const packed = (kind & compressed) !== 0;
    any ||= packed;
    // Samples in the memory of a device (0x8000) are not in the file.
    if ((kind & 0x8000) === 0 && u32(bytes, at + 24) * (packed ? 1 : 2) > length)
      return `"${name(bytes, at)}" ends behind the end of the samples`;
  }
  return { compressed: any };
}

const u16 = (bytes: Uint8Array, at: number): number =>
  (bytes[at] ?? 0) | ((bytes[at + 1] ?? 0) << 8);
const u32 = (bytes: Uint8Array, at: number): number =>
  (u16(bytes, at) | (u16(bytes, at + 2) << 16)) >>> 0;
const text = (bytes: Uint8Array, at: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + 4));
const name = (bytes: Uint8Array, at: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + 20)).split(/[^\x20-\x7e]/, 1)[0]!;
const onlyThese = (names: Iterable<string>): string => {
  const list = [...names].join(', ');
  return list === '' ? 'none at all' : `only ${list}`;
};
const spaced = (n: number): string => n.toLocaleString('en');
const isName = (said: string): boolean => /^[A-Za-z][A-Za-z0-9 ]{3}$/.test(said);
const startsWith = (head: Uint8Array): string =>
  head.length === 0
    ? 'an empty file'
    : `a file that starts with ${[...head.subarray(0, 4)].map((b) => b.toString(16).padStart(2, '0')).join(' ')}`;
