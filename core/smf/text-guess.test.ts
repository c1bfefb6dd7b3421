import iconv from 'iconv-lite';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { decodeAs, decodeText, encodeText, textEncodings, type TextEncodingName } from './text.ts';
import { encodeAs, encodeFor } from './text-encode.ts';
import { guessEncoding } from './text-guess.ts';

/** The second opinion on bytes is iconv-lite, a library of its own tables. */
const bytes = (text: string, encoding: TextEncodingName): Uint8Array =>
  Uint8Array.from(iconv.encode(text, encoding));

/** Names as tracks and markers of each language bear them (common practice of the trade). */
const names: Readonly<Record<Exclude<TextEncodingName, 'UTF-8'>, readonly (readonly string[])[]>> =
  {
    'Latin-1': [
      ['Crème brûlée'],
      ['Flöte', 'Schlagzeug'],
      ['Violão', 'Percussão'],
      ['Über'],
      ['Año nuevo', '¿Quién?'],
      ['Coração'],
      ['TROMPÉTE'],
      ['à la carte'],
      ['50 % réverb'],
      ['© 1998 by the band'],
      ['Hörner', 'Fagott', 'Baßklarinette'],
    ],
    'Windows-1252': [
      ['Don’t stop'],
      ['“Chorus”'],
      ['Verse – slow'],
      ['Intro … fade'],
      ['Œuvre'],
      ['Price 5 €'],
      ['It’s déjà vu'],
      ['Žalud'],
      ['Strings™'],
    ],
    'Windows-1251': [
      ['Гитара'],
      ['Скрипка', 'Бас'],
      ['ВСТУПЛЕНИЕ'],
      ['Припев 2'],
      ['Соло-гитара', 'Piano'],
      ['Ударные', 'Хор', 'И'],
      ['Барабан “Том”'],
    ],
    'Shift-JIS': [
      ['ギター'],
      ['ピアノ'],
      ['弦'],
      ['鍵盤'],
      ['ベース', 'ドラム'],
      ['歌'],
      ['ﾋﾟｱﾉ'],
      ['ｷﾞﾀｰ'],
      ['メロディ', 'Strings'],
      ['太鼓'],
      ['前奏', '間奏'],
      ['Ｂメロ'],
    ],
    'EUC-JP': [
      ['ギター'],
      ['ピアノ'],
      ['弦楽'],
      ['鍵盤'],
      ['ベース', 'ドラム'],
      ['歌メロ'],
      ['メロディ', 'Strings'],
      ['太鼓'],
      ['前奏', '間奏'],
    ],
  };

describe('issue 10.9: the encoding of a file’s texts', () => {
  it.each(
    Object.entries(names).flatMap(([encoding, files]) =>
      files.map((texts) => [encoding as TextEncodingName, texts] as const),
    ),
  )('is told: %s, of %j', (encoding, texts) => {
    const written = texts.map((t) => bytes(t, encoding));
    const told = guessEncoding([...written, encodeText('Piano 1')]);
    // What both can say reads the same in both.
    expect(written.map((b) => decodeText(b, told))).toEqual(texts);
    expect(told).toBe(encoding);
  });

  it('is that of most texts where one is cut off in the middle of a symbol', () => {
    const cut = bytes('メロディー・ギター', 'Shift-JIS').subarray(0, 11);
    expect(guessEncoding([cut, bytes('ピアノ', 'Shift-JIS'), bytes('ベース', 'Shift-JIS')])).toBe(
      'Shift-JIS',
    );
  });

  it('is UTF-8 where every text is, whatever it could be else', () => {
    for (const files of Object.values(names))
      for (const texts of files) expect(guessEncoding(texts.map(encodeText))).toBe('UTF-8');
  });
});

describe('texts in an encoding', () => {
  it.each(Object.entries(names) as [TextEncodingName, readonly (readonly string[])[]][])(
    '%s is read and written as an independent library does',
    (encoding, files) => {
      for (const text of files.flat()) {
        expect(decodeAs(bytes(text, encoding), encoding)).toBe(text);
        expect(encodeAs(text, encoding)).toEqual(bytes(text, encoding));
      }
    },
  );

  it('law: what is written for a song reads back from it, in its encoding or in UTF-8', () => {
    const text = fc.oneof(
      fc.string({ unit: 'grapheme' }),
      fc.constantFrom(...Object.values(names).flat(2)),
    );
    fc.assert(
      fc.property(text, fc.constantFrom(...textEncodings), (said, encoding) => {
        fc.pre(
          !said.includes('\0') && !said.startsWith('\ufeff') && !/[\ud800-\udfff]/u.test(said),
        );
        expect(decodeText(encodeFor(said, encoding), encoding)).toBe(said);
      }),
      { seed: 109, numRuns: scaleRuns(3000) },
    );
  });

  it('one symbol that an encoding cannot hold: the whole text is UTF-8', () => {
    expect(encodeFor('Gitarre 🎸', 'Windows-1252')).toEqual(encodeText('Gitarre 🎸'));
    expect(encodeFor('Don’t', 'Latin-1')).toEqual(encodeText('Don’t'));
    expect(encodeFor('Don’t', 'Windows-1252')).toEqual(bytes('Don’t', 'Windows-1252'));
    // Half-width ﾃｩ is the very bytes of é in UTF-8.
    expect(encodeFor('ﾃｩ', 'Shift-JIS')).toEqual(encodeText('ﾃｩ'));
  });
});
