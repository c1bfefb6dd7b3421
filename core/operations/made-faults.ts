import { noteFaults } from '../edit/note-faults.ts';
import type { Events } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
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
 * touched than before, and how many of those came with what it took from elsewhere. Undefined where there are
 * none. No step makes a fault that the look-over would report without its report saying so.
 */
export function madeFaults(
  before: Song,
  after: Song,
  sources: readonly Song[] = [],
): string | undefined {
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
  const there = faultsOf(sources.flatMap(({ tracks }) => tracks));
  const said = (countOf: (kind: Kind) => number): string =>
    made
      .filter((kind) => countOf(kind) > 0)
      .map((kind) => `${countOf(kind).toLocaleString('en')} ${kinds[kind]}`)
      .join(', ');
  const came = (kind: Kind): number => Math.min(now[kind] - were[kind], there[kind]);
  const [along, more] = [said(came), said((kind) => now[kind] - were[kind] - came(kind))];
  return [
    along && `Of the notes that came, as they were there: ${along}.`,
    more && `Of its notes, more than before: ${more}.`,
    'Repair notes mends that.',
  ]
    .filter(Boolean)
    .join(' ');
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
    for (const kind of Object.keys(sum) as Kind[])
      // One that hangs among others that begin with it hangs all the same, once they have gone.
      sum[kind] += kind === 'hanging' ? hangingIn(events) : faults[kind].length;
  }
  return sum;
}

function hangingIn(events: Events): number {
  const { count, off } = notesOf(events);
  let hanging = 0;
  for (let n = 0; n < count; n++) if (off[n] === -1) hanging++;
  return hanging;
}
