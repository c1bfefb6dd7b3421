import { programNames } from '../../../instruments/general-midi.ts';
import type { Meaning } from './meaning.ts';

/** "all tracks", "drums", "Violin, Viola", "tracks 2, 5", "33 Acoustic Bass", "strings family", "bass parts". */
export function meaningText(meaning: Meaning): string {
  if (meaning === 'all') return 'all tracks';
  if (meaning === 'drums') return 'drums';
  if (meaning === 'pitched') return 'all but the drums';
  if ('named' in meaning) return meaning.named.join(', ');
  if ('numbered' in meaning)
    return `${meaning.numbered.length === 1 ? 'track' : 'tracks'} ${meaning.numbered.join(', ')}`;
  if ('programs' in meaning)
    return meaning.programs.map((p) => `${p} ${programNames[p - 1]!}`).join(', ');
  if ('roles' in meaning) return meaning.roles.map((role) => `${role} parts`).join(', ');
  return meaning.families.map((f) => `${f.toLowerCase()} family`).join(', ');
}
