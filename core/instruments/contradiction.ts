import { kindOf, type SoundKind } from './kinds.ts';
import { namesIn, type Named } from './names.ts';

/** Words that say how or what a part plays rather than on what: they are true of many instruments. */
const vague: ReadonlySet<string> = new Set(
  'grand keys keyboard chord akkorde tasten clean dist overdr beat ride crash clap tom kit lead synth saw squ pad arp fx sweep upright nylon trem voice vocal vox voc sing stimme voix voz voce zang sopran tenor ooh aah str record cor corda coro bell chime bas blas orch orchestra clar harmonica basso'.split(
    ' ',
  ),
);

/** Short forms may mean anything. */
const leastLetters = 4;

/** Sounds that stand for any other: what they are called is what they imitate. */
const anything: ReadonlySet<SoundKind> = new Set(['synthesiser', 'effect', 'other']);

/**
 * Kinds that stand in for each other: a double bass is bowed and a bass, bells are struck and a kit's,
 * keyboards play all that is plucked or struck.
 */
const near: readonly (readonly SoundKind[])[] = [
  ['bass', 'bowed'],
  ['drums', 'struck'],
  ['keys', 'organ', 'struck'],
  ['keys', 'plucked', 'struck'],
  ['reed', 'pipe'],
  ['bowed', 'voice'],
  ['organ', 'voice'],
  ['organ', 'reed'],
];

/**
 * What a name says that cannot be played by a program (from 0) or kit; undefined where the two are
 * neighbours, or the name says nothing sure.
 */
export function contradiction(name: string, program: number, drums: boolean): Named | undefined {
  const plays = kindOf(program, drums);
  if (anything.has(plays)) return undefined;
  const names = namesIn(name);
  const named = names.find((n) => n.fragment.length >= leastLetters && !vague.has(n.fragment));
  const agree = names.some((n) => goesWith(kindOf(n.program, n.drums), plays));
  return agree ? undefined : named;
}

/** Whether a name of one kind may well stand for another. */
const goesWith = (named: SoundKind, plays: SoundKind): boolean =>
  named === plays ||
  anything.has(named) ||
  near.some((kinds) => kinds.includes(named) && kinds.includes(plays));
