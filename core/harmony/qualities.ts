import { semitonesOfDegree } from './spelling.ts';

/** What stands over the root of a chord. */
export interface Quality {
  /** Behind the root's name: '' of a major triad, `m7b5`. */
  readonly text: string;
  /** Degrees over the root, from 1. */
  readonly degrees: readonly string[];
  /** Their semitones above the root, 0–11, in the same order. */
  readonly tones: readonly number[];
  /** The same as bits. */
  readonly bits: number;
  /** What must be heard to tell it, as bits: all but its fifth and ninth. */
  readonly needed: number;
  /** How seldom it is met, 0–4: of two names for the same notes the plainer one is meant. */
  readonly rare: number;
}

/** Symbol, how rare, degrees. Symbols and what they hold are those of the trade. */
const table = `
 | 0 | 1 3 5
m | 0 | 1 b3 5
7 | 0 | 1 3 5 b7
m7 | 0.3 | 1 b3 5 b7
maj7 | 0.3 | 1 3 5 7
dim | 0.6 | 1 b3 b5
sus4 | 0.6 | 1 4 5
sus2 | 0.9 | 1 2 5
5 | 0.9 | 1 5
aug | 0.8 | 1 3 #5
6 | 0.7 | 1 3 5 6
m6 | 0.8 | 1 b3 5 6
m7b5 | 0.5 | 1 b3 b5 b7
dim7 | 0.5 | 1 b3 b5 bb7
7sus4 | 0.7 | 1 4 5 b7
add9 | 0.7 | 1 3 5 9
madd9 | 0.8 | 1 b3 5 9
mMaj7 | 1 | 1 b3 5 7
9 | 0.6 | 1 3 5 b7 9
maj9 | 0.7 | 1 3 5 7 9
m9 | 0.7 | 1 b3 5 b7 9
6/9 | 1 | 1 3 5 6 9
m6/9 | 1.3 | 1 b3 5 6 9
9sus4 | 1 | 1 4 5 b7 9
aug7 | 1 | 1 3 #5 b7
7b5 | 1.1 | 1 3 b5 b7
maj7#5 | 1.4 | 1 3 #5 7
maj7b5 | 1.5 | 1 3 b5 7
7b9 | 1 | 1 3 5 b7 b9
7#9 | 1.1 | 1 3 5 b7 #9
7#11 | 1.2 | 1 3 5 b7 #11
maj7#11 | 1.2 | 1 3 5 7 #11
add11 | 1.5 | 1 3 5 11
madd11 | 1.4 | 1 b3 5 11
11 | 1.3 | 1 5 b7 9 11
m11 | 1 | 1 b3 5 b7 9 11
m7add11 | 1.2 | 1 b3 5 b7 11
maj11 | 2.4 | 1 3 5 7 9 11
13 | 1 | 1 3 5 b7 9 13
7add13 | 1.2 | 1 3 5 b7 13
maj13 | 1.2 | 1 3 5 7 9 13
maj7add13 | 1.4 | 1 3 5 7 13
m13 | 1.4 | 1 b3 5 b7 9 13
13sus4 | 1.4 | 1 4 5 b7 9 13
9#11 | 1.3 | 1 3 5 b7 9 #11
maj9#11 | 1.3 | 1 3 5 7 9 #11
13#11 | 1.5 | 1 3 5 b7 9 #11 13
maj13#11 | 1.6 | 1 3 5 7 9 #11 13
13b9 | 1.5 | 1 3 5 b7 b9 13
13#9 | 1.7 | 1 3 5 b7 #9 13
7b13 | 1.5 | 1 3 5 b7 b13
9b13 | 1.6 | 1 3 5 b7 9 b13
7b9#5 | 1.6 | 1 3 #5 b7 b9
7#9#5 | 1.6 | 1 3 #5 b7 #9
9#5 | 1.5 | 1 3 #5 b7 9
9b5 | 1.6 | 1 3 b5 b7 9
7b5b9 | 1.7 | 1 3 b5 b7 b9
7b9#11 | 1.7 | 1 3 5 b7 b9 #11
7#9#11 | 1.8 | 1 3 5 b7 #9 #11
7b9#9 | 1.9 | 1 3 5 b7 b9 #9
7b9b13 | 1.8 | 1 3 5 b7 b9 b13
7#9b13 | 1.9 | 1 3 5 b7 #9 b13
7b9sus4 | 1.5 | 1 4 5 b7 b9
m9b5 | 1.5 | 1 b3 b5 b7 9
m11b5 | 1.7 | 1 b3 b5 b7 9 11
mMaj9 | 1.4 | 1 b3 5 7 9
mMaj11 | 1.9 | 1 b3 5 7 9 11
mMaj13 | 1.9 | 1 b3 5 7 9 13
m#5 | 2.4 | 1 b3 #5
m7#5 | 2.2 | 1 b3 #5 b7
mb6 | 2 | 1 b3 5 b6
m7b9 | 1.8 | 1 b3 5 b7 b9
dimMaj7 | 1.8 | 1 b3 b5 7
dim7add9 | 2 | 1 b3 b5 bb7 9
augadd9 | 1.9 | 1 3 #5 9
augadd#9 | 2.6 | 1 3 #5 #9
maj7b6 | 2.2 | 1 3 5 7 b6
maj7b9 | 2.4 | 1 3 5 7 b9
maj7#9#11 | 2.4 | 1 3 5 7 #9 #11
maj9#5 | 2 | 1 3 #5 7 9
6#11 | 2 | 1 3 5 6 #11
6/9#11 | 2 | 1 3 5 6 9 #11
(b5) | 2 | 1 3 b5
addb9 | 2.2 | 1 3 5 b9
add#11 | 2 | 1 3 5 #11
maddb9 | 2.3 | 1 b3 5 b9
sus2sus4 | 1.4 | 1 2 4 5
sus4#5 | 2.4 | 1 4 #5
maj7sus4 | 1.7 | 1 4 5 7
maj9sus4 | 2 | 1 4 5 7 9
maj7sus2 | 1.7 | 1 2 5 7
7sus2 | 1.6 | 1 2 5 b7
maj7b13 | 2.4 | 1 3 5 7 9 b13
9#5#11 | 2.3 | 1 3 #5 b7 9 #11
13#9#11 | 2.2 | 1 3 5 b7 #9 #11 13
13b5 | 2 | 1 3 b5 b7 9 13
7#5sus4 | 2.2 | 1 4 #5 b7
m69#11 | 2.8 | 1 b3 5 6 9 #11
maj7#5sus4 | 2.6 | 1 4 #5 7
maj9#5sus4 | 2.7 | 1 4 #5 7 9
7#11b13 | 2.2 | 1 3 5 b7 #11 b13
9#11b13 | 2.3 | 1 3 5 b7 9 #11 b13
7#9#11b13 | 2.4 | 1 3 5 b7 #9 #11 b13
m#5Maj7 | 2.6 | 1 b3 #5 7
mMaj7b6 | 2.5 | 1 b3 5 7 b6
dim7Maj7 | 2.6 | 1 b3 b5 bb7 7
m9#5 | 2.6 | 1 b3 #5 b7 9`;

export const qualities: readonly Quality[] = table
  .trim()
  .split('\n')
  .map((line) => {
    const [text = '', rare = '', degrees = ''] = line.split('|').map((part) => part.trim());
    return qualityOf(text, degrees.split(' '), Number(rare));
  });

/** A quality by its degrees. */
export function qualityOf(text: string, degrees: readonly string[], rare = 4): Quality {
  const tones = degrees.map(semitonesOfDegree);
  const bitsOf = (some: readonly number[]): number => some.reduce((bits, t) => bits | (1 << t), 0);
  const needed = bitsOf(
    tones.filter((_, n) => degrees.length === 2 || !/^([b#]*5|9)$/.test(degrees[n]!)),
  );
  return { text, degrees, tones, bits: bitsOf(tones), needed, rare };
}

const byText = new Map(qualities.map((q) => [q.text, q]));
export const qualityCalled = (text: string): Quality | undefined => byText.get(text);

/** The quality of just these notes over a root, as bits: the plainest where there are several. */
const byBits = new Map<number, Quality>();
for (const q of qualities) {
  const known = byBits.get(q.bits);
  if (!known || q.rare < known.rare) byBits.set(q.bits, q);
}
export const qualityOfBits = (bits: number): Quality | undefined => byBits.get(bits);
