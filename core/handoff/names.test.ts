import { describe, expect, it } from 'vitest';
import { encodeText } from '../smf/text.ts';
import { checkedPattern, namesBy, type NameFacts } from './names.ts';
import { nameStyles } from './short-names.ts';

const facts = (some: Partial<NameFacts>): NameFacts => ({
  song: 'Ferry',
  track: '',
  nn: '01',
  instrument: '',
  bpm: '120',
  key: '',
  section: '',
  version: '3',
  ...some,
});
const named = (pattern: string, ...files: Partial<NameFacts>[]) =>
  namesBy(pattern, files.map(facts), '.mid');

/** Names that Windows keeps for devices, and characters it refuses (common practice; the list is from memory). */
const devices = ['CON', 'prn', 'Aux', 'NUL', 'COM1', 'lpt9', 'con.1'];

describe('names of files', () => {
  it('follow a pattern; words that say nothing leave no gap', () => {
    expect(named('{song} {nn} {track} {key} {bpm}', { track: 'Oboe' }).names).toEqual([
      'Ferry 01 Oboe 120.mid',
    ]);
    expect(named('{song} v{version}', {}).names).toEqual(['Ferry v3.mid']);
  });

  it('hold nothing that a system refuses, and what was mended is told', () => {
    const { names, notes } = named('{track}', ...devices.map((track) => ({ track })));
    for (const name of names) expect(name).toMatch(/^_/);
    expect(notes.join()).toContain('“CON” is “_CON”');
    const odd = named('{track}', { track: '..a:b*c?"<d>|e\u0007.. ' }, { track: '///' });
    expect(odd.names).toEqual(['a b c d e.mid', 'Untitled.mid']);
    expect(odd.notes).toHaveLength(2);
  });

  it('never overwrite one another, whatever differs: case, accents written otherwise, letters behind the cut', () => {
    const long = 'x'.repeat(300);
    const { names } = named(
      '{track}',
      { track: 'Été' },
      { track: 'E\u0301te\u0301' },
      { track: 'ÉTÉ' },
      { track: `${long}a` },
      { track: `${long}b` },
    );
    expect(new Set(names.map((n) => n.normalize('NFC').toLowerCase())).size).toBe(5);
    expect(names[1]).toMatch(/ \(2\)\.mid$/);
  });

  it('fit 255 bytes in UTF-8 with room to spare, and no symbol is cut in half', () => {
    const [name] = named('{track}', { track: '🎻'.repeat(200) }).names;
    expect(encodeText(name!).length).toBeLessThanOrEqual(210);
    expect(name).not.toContain('\ufffd');
    expect([...name!.slice(0, -4)].every((symbol) => symbol === '🎻')).toBe(true);
  });

  it('are refused as a pattern where they name a folder, an unknown word, or nothing', () => {
    for (const pattern of ['a/b', 'a\\b', '{artist}', '{song', '{}', '   '])
      expect(checkedPattern(pattern).ok, pattern).toBe(false);
    expect(checkedPattern('{song} ({key})').ok).toBe(true);
  });
});

describe('short names of files', () => {
  const short = (style: '16' | '8.3', ...tracks: string[]) =>
    namesBy(
      '{nn} {track}',
      tracks.map((track) => facts({ track })),
      '.mid',
      nameStyles[style],
    ).names;

  it('have eight capitals and digits for old devices, and are told apart by a number at their end', () => {
    expect(short('8.3', 'Bass Clarinet', 'Bass Clarino', 'Ödland 3', '東京')).toEqual([
      '01BASSCL.MID',
      '01BASSC2.MID',
      '01ODLAND.MID',
      '01DONGJI.MID',
    ]);
  });

  it('have sixteen letters of ASCII, and never one of a device', () => {
    expect(short('16', 'Glass Harmonica, far', 'Glass Harmonica, near')).toEqual([
      '01 Glass Harmoni.mid',
      '01 Glass Har (2).mid',
    ]);
    expect(namesBy('{track}', [facts({ track: 'con' })], '.mid', nameStyles['8.3']).names).toEqual([
      '_CON.MID',
    ]);
  });
});
