import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** A group of this many notes at most, this small a part of the track, this many quarters away from the rest. */
const mostNotes = 3;
const mostShare = 0.05;
const quartersAway = 64;

/** A few notes far before or behind the rest of a part: usually slips of a key before or after a recording. */
export function strays(song: LookedSong): Noticed[] {
  const onsets = new Onsets(song.parts);
  return song.parts.flatMap((t): Noticed[] => [apart(song, onsets, t, 'before'), apart(song, onsets, t, 'behind')].filter((n) => n !== undefined));
}

/** Where the notes of all parts begin, in order; made when it is first asked for, which most songs do not. */
class Onsets {
  private readonly parts: readonly LookedTrack[];
  private ordered: { tick: number; part: LookedTrack }[] | undefined;

  constructor(parts: readonly LookedTrack[]) {
    this.parts = parts;
  }

  /** Whether a note of a part other than `t` begins less than `near` ticks from `tick`. */
  others(t: LookedTrack, tick: number, near: number): boolean {
    this.ordered ??= this.parts.flatMap((part) => Array.from(part.notes.on.subarray(0, part.notes.count), (on) => ({ tick: part.track.events.atTick[on]!, part }))).sort((a, b) => a.tick - b.tick);
    const { ordered } = this;
    let [low, high] = [0, ordered.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (ordered[middle]!.tick > tick - near) high = middle;
      else low = middle + 1;
    }
    // Of `t` itself few notes are near: it is far from its others.
    for (; low < ordered.length && ordered[low]!.tick < tick + near; low++) if (ordered[low]!.part !== t) return true;
    return false;
  }
}

function apart({ quarter, barAt }: LookedSong, onsets: Onsets, t: LookedTrack, side: 'before' | 'behind'): Noticed | undefined {
  const { events } = t.track;
  const most = Math.min(mostNotes, Math.floor(t.notes.count * mostShare));
  const startOf = (n: number): number => events.atTick[t.notes.on[n]!]!;
  for (let size = 1; size <= most; size++) {
    const [a, b] = side === 'before' ? [size - 1, size] : [t.notes.count - 1 - size, t.notes.count - size];
    if (startOf(b) - startOf(a) < quartersAway * quarter) continue;
    const [from, to] = side === 'before' ? [startOf(0), startOf(a)] : [startOf(b), startOf(t.notes.count - 1)];
    // Where others play too, it is an entry and no slip.
    if (onsets.others(t, from, 4 * quarter)) continue;
    const bars = { from: barAt(from), to: barAt(to) };
    return {
      title: `${t.label} has ${size === 1 ? 'a note' : `${size} notes`} far ${side} the rest`,
      why: 'A slip before or after the recording makes the part, and the song, much longer than its music.',
      tracks: [t.id], bars, count: size, sure: 'possible',
      settle: [{ title: 'Remove', operation: 'notes.remove', settings: {}, scope: { ...on(t.id), bars } }],
    };
  }
  return undefined;
}
