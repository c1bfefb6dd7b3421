import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** A group of this many notes at most, this small a part of the track, this many quarters away from the rest. */
const mostNotes = 3;
const mostShare = 0.05;
const quartersAway = 64;

/** A few notes far before or behind the rest of a part: usually slips of a key before or after a recording. */
export function strays(song: LookedSong): Noticed[] {
  return song.parts.flatMap((t): Noticed[] => [apart(song, t, 'before'), apart(song, t, 'behind')].filter((n) => n !== undefined));
}

function apart({ quarter, barAt, parts }: LookedSong, t: LookedTrack, side: 'before' | 'behind'): Noticed | undefined {
  const { events } = t.track;
  const most = Math.min(mostNotes, Math.floor(t.notes.count * mostShare));
  const startOf = (n: number): number => events.atTick[t.notes.on[n]!]!;
  for (let size = 1; size <= most; size++) {
    const [a, b] = side === 'before' ? [size - 1, size] : [t.notes.count - 1 - size, t.notes.count - size];
    if (startOf(b) - startOf(a) < quartersAway * quarter) continue;
    const [from, to] = side === 'before' ? [startOf(0), startOf(a)] : [startOf(b), startOf(t.notes.count - 1)];
    // Where others play too, it is an entry and no slip.
    if (parts.some((other) => other !== t && other.notes.on.some((on) => Math.abs(other.track.events.atTick[on]! - from) < 4 * quarter))) continue;
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
