import type { InstrumentView } from '#contracts/instruments.ts';
import type { InstrumentDefinition } from '#core/instruments/definition.ts';
import { familyNames, familyOf, programNames } from '#core/instruments/general-midi.ts';
import { kitNames } from '#core/instruments/sounds.ts';

/** Something that may play a part. */
export interface Candidate {
  /** `program 74`, `kit 1`: as stored, from 0. */
  readonly key: string;
  readonly drums: boolean;
  /** From 1. */
  readonly program: number;
  readonly name: string;
  readonly family: string;
  /** Of one that is defined by what it can do. */
  readonly definition?: InstrumentDefinition;
}

const drumKits = 'Drum kits';

/** All there is to choose from, family by family. */
export const candidates: readonly Candidate[] = [
  ...programNames.map((name, n): Candidate => ({
    key: `program ${n}`,
    drums: false,
    program: n + 1,
    name,
    family: familyNames[n >> 3]!,
  })),
  ...Object.entries(kitNames).map(([n, name]): Candidate => ({
    key: `kit ${n}`,
    drums: true,
    program: Number(n) + 1,
    name,
    family: drumKits,
  })),
];
export const families: readonly string[] = [...familyNames, drumKits];

export const candidateOf = (key: string): Candidate | undefined =>
  candidates.find((c) => c.key === key);

/** Instruments that are defined, as candidates. */
export const definedOnes = (instruments: readonly InstrumentView[]): Candidate[] =>
  instruments.map(({ id, definition }) => ({
    key: `defined ${id}`,
    drums: definition.drums,
    program: definition.program,
    name: definition.name,
    family: definition.drums ? drumKits : familyOf(definition.program - 1),
    definition,
  }));

/**
 * How well a candidate answers what is typed, 0 to 1: its number; the beginning of its name, or of a word
 * of it; all that is typed anywhere in name or family. 0 hides it.
 */
export function answers({ name, family, program }: Candidate, typed: string): number {
  const wanted = plain(typed);
  if (wanted === '') return 1;
  if (/^\d+$/.test(wanted)) return program === Number(wanted) ? 1 : 0;
  const said = plain(name);
  if (said.startsWith(wanted)) return 1;
  const words = wanted.split(' ');
  const has = `${said} ${plain(family)}`.split(' ');
  if (words.every((word) => said.split(' ').some((w) => w.startsWith(word)))) return 0.8;
  if (words.every((word) => has.some((w) => w.startsWith(word)))) return 0.5;
  return `${said} ${plain(family)}`.includes(wanted) ? 0.2 : 0;
}

/** The first of those that answer best; undefined where none answers. */
export function bestOf(list: readonly Candidate[], typed: string): Candidate | undefined {
  const [best] = list
    .map((c) => ({ c, answer: answers(c, typed) }))
    .sort((a, b) => b.answer - a.answer);
  return best && best.answer > 0 ? best.c : undefined;
}

const plain = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();
