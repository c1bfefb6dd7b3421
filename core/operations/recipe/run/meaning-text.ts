import type { Meaning } from './meaning.ts';

/** "all tracks", "drums", "Violin and Viola", "Strings". */
export function meaningText(meaning: Meaning): string {
  if (meaning === 'all') return 'all tracks';
  if (meaning === 'drums') return 'drums';
  if (meaning === 'pitched') return 'all but the drums';
  return (
    'named' in meaning ? meaning.named : meaning.families.map((f) => `${f.toLowerCase()} family`)
  ).join(', ');
}
