import { onTracks, type Noticed } from '../finding.ts';
import type { Astray, Windows } from '../track-look.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** A group of this many notes at most, this small a part of the track, this many quarters away from the rest. */
const mostNotes = 3;
const mostShare = 0.05;
const quartersAway = 64;

/** Others that begin less than so many quarters away play there too. */
const quartersNear = 4;

/** Where each note of a part begins. */
function startsOf({ notes, track: { events } }: LookedTrack): (n: number) => number {
  const { on } = notes;
  const { atTick } = events;
  return (n) => atTick[on[n]!]!;
}

export function windowsOf(t: LookedTrack, quarter: number): Windows {
  const rows: [number, number][] = [];
  const startOf = startsOf(t);
  for (let n = 0; n < t.notes.count; n++) {
    const window = Math.floor(startOf(n) / (quartersNear * quarter));
    const last = rows.at(-1);
    if (last && window <= last[1] + 1) last[1] = Math.max(last[1], window);
    else rows.push([window, window]);
  }
  return rows;
}

/** A few notes far before or behind the rest of a part: usually slips of a key before or after a recording. */
export function strays({ parts, quarter }: LookedSong): Noticed[] {
  return parts.flatMap((t) =>
    t.look.astray
      .filter(({ tick }) => !parts.some((other) => other !== t && playsNear(other, tick, quarter)))
      .map(({ noticed }) => noticed),
  );
}

/** Whether a note of a part begins near a tick. Its notes are looked at only where one of its windows is near. */
function playsNear(t: LookedTrack, tick: number, quarter: number): boolean {
  const near = quartersNear * quarter;
  const [from, to] = [Math.floor((tick - near) / near), Math.floor((tick + near) / near)];
  if (!t.look.windows.some(([first, last]) => first <= to && last >= from)) return false;
  const startOf = startsOf(t);
  for (let n = 0; n < t.notes.count; n++) if (Math.abs(startOf(n) - tick) < near) return true;
  return false;
}

/** The groups of a part's notes that lie apart from the rest, before it and behind it. */
export const astrayIn = (song: LookedSong, t: LookedTrack): Astray[] =>
  [apart(song, t, 'before'), apart(song, t, 'behind')].filter((a) => a !== undefined);

function apart(
  { quarter, barAt }: LookedSong,
  t: LookedTrack,
  side: 'before' | 'behind',
): Astray | undefined {
  const startOf = startsOf(t);
  const most = Math.min(mostNotes, Math.floor(t.notes.count * mostShare));
  for (let size = 1; size <= most; size++) {
    const [a, b] =
      side === 'before' ? [size - 1, size] : [t.notes.count - 1 - size, t.notes.count - size];
    if (startOf(b) - startOf(a) < quartersAway * quarter) continue;
    const [from, to] =
      side === 'before' ? [startOf(0), startOf(a)] : [startOf(b), startOf(t.notes.count - 1)];
    const bars = { from: barAt(from), to: barAt(to) };
    return {
      tick: from,
      noticed: {
        title: `${t.label} has ${size === 1 ? 'a note' : `${size} notes`} far ${side} the rest`,
        why: 'A slip before or after the recording makes the part, and the song, much longer than its music.',
        tracks: [t.id],
        bars,
        count: size,
        sure: 'possible',
        settle: [
          {
            title: 'Remove',
            operation: 'notes.remove',
            settings: {},
            scope: { ...onTracks(t.id), bars },
          },
        ],
      },
    };
  }
  return undefined;
}
