import { noteFaults } from './notes-repair/faults.ts';
import type { Song, Track } from '../song/song.ts';

/** What can be wrong with notes, as it is called behind a number. */
const kinds = { hanging: 'hanging', overlapping: 'overlapping another of the key', duplicate: 'written twice', doubled: 'struck together with another of the key', empty: 'without length', crossed: 'begun before the end on the same tick of the note before on the key' } as const;
type Kind = keyof typeof kinds;

/**
 * Faults in notes that a step made, in words: how many more of each kind stand in the tracks that it touched than before. Undefined where it
 * made none. No step makes a fault that the look-over would report without its report saying so.
 */
export function madeFaults(before: Song, after: Song): string | undefined {
  const kept = new Set<unknown>(after.tracks.map((t) => t.events));
  const same = new Set<unknown>(before.tracks.map((t) => t.events));
  const touched = after.tracks.filter((t) => !same.has(t.events));
  if (touched.length === 0) return undefined;
  const [old, now] = [before.tracks.filter((t) => !kept.has(t.events)), touched].map(faultsOf) as [Record<Kind, number>, Record<Kind, number>];
  const made = (Object.keys(kinds) as Kind[]).filter((kind) => now[kind] > old[kind]);
  if (made.length === 0) return undefined;
  return `of its notes, more than before: ${made.map((kind) => `${(now[kind] - old[kind]).toLocaleString('en')} ${kinds[kind]}`).join(', ')} (Repair notes mends that)`;
}

function faultsOf(tracks: readonly Track[]): Record<Kind, number> {
  const sum: Record<Kind, number> = { hanging: 0, overlapping: 0, duplicate: 0, doubled: 0, empty: 0, crossed: 0 };
  for (const { events } of tracks) {
    const faults = noteFaults(events);
    for (const kind of Object.keys(sum) as Kind[]) sum[kind] += faults[kind].length;
  }
  return sum;
}
