import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { decodeText, encodeText } from './text.ts';
import { guessEncoding } from './text-guess.ts';
import { bytesOf } from './worked-examples.ts';

/**
 * Byte values: JIS X 0208 in Shift-JIS form and ISO 8859-1, from memory; the platform's decoder is the
 * second opinion.
 */
const song = bytesOf('83938383835E815B'); // ンャター
const melody = bytesOf('838D83668342'); // メロディ with small ィ
const creme = bytesOf('4372E86D65'); // Crème
const uber = bytesOf('DC626572'); // Über

describe('text of meta events', () => {
  it('is UTF-8 where every text is', () => {
    expect(guessEncoding([encodeText('Crème'), encodeText('メロディ'), encodeText('plain')])).toBe(
      'UTF-8',
    );
  });

  it('is Latin-1 for western names, even where a pair could be read as Japanese', () => {
    expect(guessEncoding([creme])).toBe('Latin-1');
    expect(guessEncoding([uber, creme])).toBe('Latin-1');
    expect(decodeText(creme, 'Latin-1')).toBe('Crème');
  });

  it('is Shift-JIS where kana speak for it', () => {
    expect(guessEncoding([song, bytesOf('506961 6E6F')])).toBe('Shift-JIS');
    expect(decodeText(melody, 'Shift-JIS')).toBe(new TextDecoder('shift_jis').decode(melody));
  });

  it('leaves out zero bytes for reading', () => {
    expect(decodeText(bytesOf('5069616E6F0000'))).toBe('Piano');
    expect(decodeText(bytesOf('500069616E6F'))).toBe('Piano');
  });

  it('encodes as the platform does', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(encodeText(text)).toEqual(new TextEncoder().encode(text));
      }),
    );
  });
});

it('texts in memory that threads share read the same: no decoder is handed such memory, which browsers refuse', () => {
  const said = encodeText('Fête 灯籠');
  const there = new Uint8Array(new SharedArrayBuffer(said.length));
  there.set(said);
  const decode = vi.spyOn(TextDecoder.prototype, 'decode');
  expect(decodeText(there)).toBe('Fête 灯籠');
  expect(
    decode.mock.calls.map(([bytes]) => (bytes as Uint8Array).buffer instanceof ArrayBuffer),
  ).toEqual([true]);
  decode.mockRestore();
});
