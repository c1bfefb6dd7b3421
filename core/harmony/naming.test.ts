import { ChordType, Note } from 'tonal';
import { describe, expect, it } from 'vitest';
import { chordNotes, chordText, sameChord } from './chord.ts';
import { bitsOf, namesOf } from './name-tones.ts';
import { qualities } from './qualities.ts';
import { readChord } from './read-chord.ts';
import { degreeParts, noteIn, noteText } from './spelling.ts';

/** Keys of pitch names from the lowest up, the first above C3. */
function voiced(names: readonly string[]): number[] {
  let last = 47;
  return names.map((name) => {
    let key = 48 + Note.chroma(name)!;
    while (key <= last) key += 12;
    last = key;
    return key;
  });
}
const sameSet = (a: readonly number[], b: readonly number[]): boolean =>
  new Set([...a, ...b]).size === new Set(a).size && new Set(a).size === new Set(b).size;

const roots = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];

describe('chords named from their notes, against npm tonal 6.4.3', () => {
  it('500 voicings of its own dictionary: the same notes over the same root', () => {
    const cases = ChordType.all().flatMap((type) =>
      roots.map((root) => ({ type, root, name: root + type.aliases[0]! })),
    );
    const wrong = new Map<string, string>();
    let asked = 0;
    for (const [n, { type, root }] of cases.entries()) {
      // Spread over the whole dictionary: 500 of its types and roots.
      if (n % Math.floor(cases.length / 500) !== 0 || asked === 500) continue;
      const notes = type.intervals.map((i) => Note.transpose(root, i));
      const keys = voiced(notes);
      const named = namesOf(bitsOf(keys), keys[0]! % 12);
      asked++;
      const chroma = notes.map((note) => Note.chroma(note)!);
      const agrees = named.some(
        ({ chord, missing }) =>
          chord.root === Note.chroma(root) &&
          sameSet(
            chord.quality.tones
              .filter((_, t) => !missing.includes(chord.quality.degrees[t]!))
              .map((t) => (t + chord.root) % 12),
            chroma,
          ),
      );
      const key = type.name || type.aliases[0]!;
      if (!agrees)
        wrong.set(
          key,
          `${root}${type.aliases[0]} ${type.intervals.join(' ')}: ${named.map((x) => chordText(x.chord)).join(', ') || 'none'}`,
        );
    }
    expect(asked).toBe(500);
    // One entry holds no chord: two fourths and a third that belong to no root.
    expect([...wrong.keys()].filter((type) => type !== 'quartal')).toEqual([]);
  });
});

/**
 * Symbols that hold other notes here than in tonal's dictionary, with the reason. Each is a custom of
 * writing, and none is a standard's.
 */
const otherwise: readonly (readonly [RegExp, string])[] = [
  [
    /b5(#9|b9|b13)|#9b5|b9b5|[69]b5|M6b5/,
    'a flat fifth takes the place of the fifth; there both sound',
  ],
  [/7b13|b6M7|7b6|b6b9|9b13/, 'the fifth sounds unless it is altered; there it is left out'],
  [/alt/, 'an altered chord has both ninths and the flat thirteenth'],
  [/#4$/, 'without a seventh in its name it has none'],
  [/^Co7M7/, 'o7 with a major seventh is read as one seventh, the major'],
  [/^C(4|quartal)$/, 'stacked fourths; 4 is an added fourth here'],
  [/^C(h7?|phryg)$/, 'letters that few use'],
  [/^Cm11A$/, 'A for augmented is not read'],
  [/^CM7add13$/, 'there with a ninth that its name does not say'],
  [/^Cb9sus$/, 'there without a seventh: a flat ninth stands on one'],
];

describe('chord symbols read, against npm tonal 6.4.3', () => {
  it('its 214 symbols hold the notes that it says, but for those that are listed', () => {
    const all = ChordType.all().flatMap((type) =>
      type.aliases.map((alias) => ({ name: `C${alias}`, intervals: type.intervals })),
    );
    const wrong = all.filter(({ name, intervals }) => {
      const chord = readChord(name)?.chord;
      const notes = intervals.map((i) => Note.chroma(Note.transpose('C', i))!);
      return !chord || !sameSet(chord.quality.tones, notes);
    });
    expect(all).toHaveLength(214);
    expect(
      wrong.map((w) => w.name).filter((name) => !otherwise.some(([is]) => is.test(name))),
    ).toEqual([]);
    expect(wrong.length).toBeLessThan(30);
  });

  it('what is no chord is none', () => {
    for (const text of [
      '',
      ' ',
      'H7',
      'Hello',
      'Cfoo',
      'C7/',
      'C7/H',
      '7',
      'am',
      'C7add',
      'x'.repeat(300),
      `C${'b5'.repeat(60)}`,
      'C%',
      'Amen',
    ])
      expect([text, readChord(text)?.text]).toEqual([text, undefined]);
    expect(readChord('n.c.')).toEqual({ chord: undefined, text: 'N.C.' });
  });
});

describe('names and readings of each other', () => {
  it('law: what a chord is called is read as that chord, over every root, with every bass, in every key', () => {
    for (const quality of qualities)
      for (let root = 0; root < 12; root++) {
        const chord = { root, quality };
        for (const sharps of [-7, -3, 0, 4, 7]) {
          const read = readChord(chordText(chord, { sharps, minor: false }))?.chord;
          expect([quality.text, root, read && sameChord(read, chord)]).toEqual([
            quality.text,
            root,
            true,
          ]);
        }
        const bass = (root * 5 + 3) % 12;
        const slashed = readChord(
          chordText({ ...chord, bass }, { sharps: -2, minor: true }),
        )?.chord;
        expect(slashed && sameChord(slashed, { ...chord, bass })).toBe(true);
      }
  });

  it('voicings worked by hand: inversions, slash basses, roots that others play, two names of one sound', () => {
    const name = (keys: readonly number[], near?: string): string =>
      chordText(
        namesOf(bitsOf(keys), keys[0]! % 12, near ? readChord(near)!.chord : undefined)[0]!.chord,
      );
    expect(name([60, 64, 67])).toBe('C');
    expect(name([52, 60, 67])).toBe('C/E');
    expect(name([53, 57, 60, 64, 67])).toBe('Fmaj9');
    expect(name([50, 60, 64, 67])).toMatch(/^(C\/D|D9sus4)$/);
    // C E G A: named after its lowest note.
    expect(name([60, 64, 67, 69])).toBe('C6');
    expect(name([57, 60, 64, 67])).toBe('Am7');
    // E B♭ D is a C9 without C and G where a bass plays C; alone it is something else.
    expect(name([64, 70, 74], 'C9')).toBe('C9');
    expect(name([59, 62, 65, 67])).toBe('G7/B');
    expect(namesOf(bitsOf([60]), 0)).toEqual([]);
    expect(namesOf(bitsOf([60, 61, 62, 63]), 0)).toEqual([]);
  });

  it('notes are spelled from their root and degree', () => {
    const notes = (text: string): string =>
      chordNotes(readChord(text)!.chord!, { sharps: text[1] === 'b' ? -3 : 0, minor: false }).join(
        ' ',
      );
    expect(notes('Ebm7b5')).toBe('Eb Gb Bbb Db');
    expect(notes('F#7')).toBe('F# A# C# E');
    expect(notes('Cdim7')).toBe('C Eb Gb Bbb');
    expect(notes('Ab13')).toBe('Ab C Eb Gb Bb F');
    expect(degreeParts('b9')).toEqual({ letters: 8, semitones: 13 });
    // In E♭ minor the third is G♭, in E minor the leading note D♯.
    expect(noteText(noteIn(6, { sharps: -6, minor: true }))).toBe('Gb');
    expect(noteText(noteIn(3, { sharps: 1, minor: true }))).toBe('D#');
  });
});
