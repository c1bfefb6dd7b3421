/** What a clip is for. */
export const clipKinds = ['groove', 'fill', 'ending', 'line', 'chords', 'other'] as const;
export type ClipKind = (typeof clipKinds)[number];

/** Words in names, in English and as files are commonly called (common practice). The first that is found counts. */
const words: readonly (readonly [RegExp, ClipKind])[] = [
  [/\b(fills?|break|pick ?up)\b/i, 'fill'],
  [/\b(ending|end|outro|coda|tag)\b/i, 'ending'],
  [/\b(grooves?|beats?|loops?|patterns?|main|verse|chorus|shuffle|swing)\b/i, 'groove'],
  [/\b(chords?|comp(ing)?|pads?|strum(ming)?|changes)\b/i, 'chords'],
  [/\b(lines?|melod(y|ies)|bass|lead|riffs?|solo|hook|arp(eggio)?)\b/i, 'line'],
];

/** What of its notes says what a clip is for. */
export interface ClipNotes {
  readonly drums: boolean;
  readonly notes: number;
  readonly bars: number;
  /** Notes that sound together, on the mean, where any do. */
  readonly together: number;
  /** Whether its last bar has nothing but what rings from its first beat. */
  readonly ends: boolean;
}

/** Proposed from its name, else from its notes; a person may say otherwise. */
export function kindOf(name: string, of: ClipNotes): ClipKind {
  const plain = name.replace(/[_\-.]+/g, ' ');
  const said = words.find(([word]) => word.test(plain))?.[1];
  if (said && (of.drums || said !== 'groove')) return said;
  if (of.notes === 0) return 'other';
  if (of.drums) return of.ends && of.bars <= 4 ? 'ending' : of.bars <= 1 ? 'fill' : 'groove';
  return of.together >= 2.5 ? 'chords' : 'line';
}

/** Grooves and what lies beneath others come round; what happens once does not. */
export const comesRound = (kind: ClipKind): boolean => kind === 'groove' || kind === 'chords';
