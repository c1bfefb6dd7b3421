import { noteFaults } from '../edit/note-faults.ts';
import type { Song, Track } from '../song/song.ts';

/** What can be wrong with notes, as it is called behind a number. */
const kinds = {
  hanging: 'hanging',
  overlapping: 'overlapping another of the key',
  duplicate: 'written twice',
  doubled: 'struck together with another of the key',
  empty: 'without length',
  crossed: 'begun before the end on the same tick of the note before on the key',
} as const;
type Kind = keyof typeof kinds;

/**
 * Faults in notes that a step made, in a sentence: how many more of each kind stand in the tracks that it
 * touched than before. Undefined where it made none. No step makes a fault that the look-over would report
 * without its report saying so.
 */
export function madeFaults(before: Song, after: Song): string | undefined {
  // Tracks that a step leaves alone are the same objects, whose events nobody need look at; what it only
  // gave another name has the events it had.
  const kept = new Set(after.tracks);
  const same = new Set(before.tracks);
  const old = before.tracks.filter((t) => !kept.has(t));
  const touched = after.tracks.filter((t) => !same.has(t));
  const had = new Set(old.map((t) => t.events));
  const edited = touched.filter((t) => !had.has(t.events));
  if (edited.length === 0) return undefined;
  const has = new Set(touched.map((t) => t.events));
  const [were, now] = [faultsOf(old.filter((t) => !has.has(t.events))), faultsOf(edited)];
  const made = (Object.keys(kinds) as Kind[]).filter((kind) => now[kind] > were[kind]);
  if (made.length === 0) return undefined;
  const more = made.map(
    (kind) => `${(now[kind] - were[kind]).toLocaleString('en')} ${kinds[kind]}`,
  );
  return `Of its notes, more than before: ${more.join(', ')}. Repair notes mends that.`;
}

function faultsOf(tracks: readonly Track[]): Record<Kind, number> {
  const sum: Record<Kind, number> = {
    hanging: 0,
    overlapping: 0,
    duplicate: 0,
    doubled: 0,
    empty: 0,
    crossed: 0,
  };
  for (const { events } of tracks) {
    const faults = noteFaults(events);
    for (const kind of Object.keys(sum) as Kind[]) sum[kind] += faults[kind].length;
  }
  return sum;
}
