import { describe, expect, it } from 'vitest';
import { plainFile } from '../../tests/support/plain-bank.ts';
import { readBank } from './bank.ts';

// Written by spessasynth_core, which is independent of what reads it here.
const file = new Uint8Array(plainFile());
const read = (bytes: Uint8Array) =>
  readBank(async (at, length) => bytes.subarray(at, at + length), bytes.length);
const found = async (bytes: Uint8Array): Promise<string> => {
  const result = await read(bytes);
  return result.ok ? 'a bank' : 'found' in result.problem ? String(result.problem.found) : '';
};
const changed = (at: number, ...to: number[]): Uint8Array => {
  const bytes = file.slice();
  bytes.set(to, at);
  return bytes;
};
const placeOf = (name: string): number => {
  const text = String.fromCharCode(...file);
  return text.indexOf(name);
};

describe('sound banks (SoundFont Technical Specification 2.04)', () => {
  it('says what a bank holds: one preset on program 1, and no drums', async () => {
    const result = await read(file);
    expect(result.ok && result.value).toMatchObject({ format: 'SF2', presets: 1, drums: false });
    expect(result.ok && result.value.missing).toHaveLength(127);
  });

  it('refuses what is none, what is cut off wherever that is, and what lacks a part', async () => {
    expect(await found(new Uint8Array(0))).toBe('an empty file');
    expect(await found(Uint8Array.of(0x4d, 0x54, 0x68, 0x64, 0, 0))).toContain('4d 54 68 64');
    for (let length = 12; length < file.length; length += 97)
      expect(await found(file.subarray(0, length))).toContain('its end is missing');
    expect(await found(changed(placeOf('shdr'), 0x78))).toContain('only phdr');
    expect(await found(changed(placeOf('pdta'), 0x78))).toContain('only INFO, sdta');
    expect(await found(changed(placeOf('phdr') + 4, 37))).not.toBe('a bank');
  });

  it('refuses samples that lie behind the end of them', async () => {
    // The end of the first sample: 24 bytes into its record (section 7.10).
    const at = placeOf('shdr') + 8 + 24;
    expect(await found(changed(at, 0xff, 0xff, 0xff, 0x7f))).toBe(
      '"Sine" ends behind the end of the samples',
    );
  });

  it('any byte may be wrong: it is a bank or it is refused, and nothing breaks', async () => {
    for (let at = 0; at < file.length; at += at < 400 || at > file.length - 700 ? 1 : 113)
      for (const to of [0, 0xff]) expect(typeof (await read(changed(at, to))).ok).toBe('boolean');
  });
});
