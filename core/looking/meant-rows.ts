import { notesOf } from '../song/notes.ts';
import { limitsOf } from '../song/played-by.ts';
import type { Track } from '../song/song.ts';

/**
 * Rows of a track that a finding of some rule is about, where the step that settles it would change others:
 * fewer, since some are right by chance; more, since a part is moved as a whole; or none, since something is
 * put in. Undefined for rules whose
 * step changes just what they are about.
 */
export function meantRows(rule: string, track: Track): number[] | undefined {
  const { events } = track;
  const notes = (): number[] => [...notesOf(events).on];
  if (rule === 'one-velocity') return notes();
  if (rule === 'bend-range')
    return [...events.status.keys()].filter((row) => events.status[row]! >> 4 === 0xe);
  if (rule !== 'out-of-range' && rule !== 'kit-keys') return undefined;
  const [lowest, highest] = limitsOf(track)?.playable ?? [0, 127];
  return notes().filter((row) => events.data1[row]! < lowest || events.data1[row]! > highest);
}
