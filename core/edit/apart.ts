import type { Events } from '../smf/events.ts';
import type { Notes } from '../song/notes.ts';

/** How moved notes were kept from falling on others of their key. */
export interface KeptApart {
  /** Notes that end earlier than was asked, where the next of their key begins. */
  readonly cut: number;
  /** Notes that stay where they were, since another of their key would stand there. */
  readonly stayed: number;
}

/**
 * Changes new ticks of notes (`atTick`, by row) so that no two notes of a key that did not sound together
 * before do so now: the one before ends where the next begins; a note that would begin with or before its
 * forerunner stays where it was. What overlapped before is left alone.
 */
export function keepApart(events: Events, notes: Notes, atTick: Float64Array): KeptApart {
  const lastOf = new Int32Array(2048).fill(-1);
  const before = new Int32Array(notes.count).fill(-1);
  const putBack = new Uint8Array(notes.count);
  let [cut, stayed] = [0, 0];
  const start = (n: number): number => atTick[notes.on[n]!]!;
  const oldStart = (n: number): number => events.atTick[notes.on[n]!]!;
  const oldEnd = (n: number): number =>
    notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;
  const isMoved = (n: number): boolean => start(n) !== oldStart(n);
  const stay = (n: number): void => {
    atTick[notes.on[n]!] = oldStart(n);
    if (notes.off[n] !== -1) atTick[notes.off[n]!] = oldEnd(n);
    putBack[n] = 1;
    stayed++;
  };
  for (let n = 0; n < notes.count; n++) {
    const row = notes.on[n]!;
    const key = ((events.status[row]! & 15) << 7) | events.data1[row]!;
    before[n] = lastOf[key]!;
    lastOf[key] = n;
    // What began with a note that had to stay stays with it.
    const twin = before[n]!;
    if (twin !== -1 && putBack[twin] && oldStart(twin) === oldStart(n) && isMoved(n)) stay(n);
    let later = n;
    for (let earlier = before[n]!; earlier !== -1; later = earlier, earlier = before[earlier]!) {
      if (oldStart(earlier) === oldStart(later) || start(earlier) < start(later)) break;
      // Old places are in order: where one of the two moved, going back puts them right, and is looked at
      // against the one before.
      if (later === n && isMoved(n)) {
        stay(n);
        if (start(earlier) < start(n)) break;
      }
      if (isMoved(earlier)) stay(earlier);
    }
  }
  for (let n = 0; n < notes.count; n++) {
    const from = start(n);
    // All that begin together before this one end where it begins.
    const first = before[n] === -1 ? -1 : start(before[n]!);
    for (let earlier = before[n]!; earlier !== -1; earlier = before[earlier]!) {
      if (start(earlier) !== first || from <= first) break;
      const off = notes.off[earlier]!;
      // What sounded into this note before goes on doing so, and no longer.
      const overlap = Math.max(0, oldEnd(earlier) - oldStart(n));
      if (off === -1 || overlap > 0 || atTick[off]! <= from) continue;
      atTick[off] = from;
      cut++;
    }
  }
  return { cut, stayed };
}

/** In words, for a report; undefined where nothing had to be done. */
export function apartWords({ cut, stayed }: KeptApart): string | undefined {
  const words = [
    cut > 0 &&
      `${cut.toLocaleString('en')} end${cut === 1 ? 's' : ''} where the next of the key begins`,
    stayed > 0 &&
      `${stayed.toLocaleString('en')} stay${stayed === 1 ? 's' : ''} where another of the key would stand`,
  ].filter(Boolean);
  return words.length === 0 ? undefined : words.join(', ');
}
