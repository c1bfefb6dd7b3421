import type { Events } from '../../smf/events.ts';
import { laneDefault, type Lane } from '../../song/lanes.ts';
import { notesOf } from '../../song/notes.ts';

export interface Idle {
  /** Followed by another value on the same tick. */
  readonly overridden: boolean;
  /** Changes while no note of the channel sounds; the last before a note counts as heard. */
  readonly silent: boolean;
  /** Comes when no note of the channel begins or sounds any more. Values that bring the lane to rest count as heard. */
  readonly after: boolean;
}

/** Rows of a lane that change nothing one could hear, in order. */
export function idleRows(events: Events, { rows, values, channel, what }: Lane, idle: Idle): number[] {
  const { starts, last, soundsAt } = soundingOn(events, channel);
  const rest = laneDefault(what);
  const found: number[] = [];
  let next = 0;
  for (let n = 0; n < rows.length; n++) {
    const tick = events.atTick[rows[n]!]!;
    const until = n + 1 < rows.length ? events.atTick[rows[n + 1]!]! : Infinity;
    while (next < starts.length && starts[next]! < tick) next++;
    if (tick > last) {
      if (idle.after && starts.length > 0 && !(n === rows.length - 1 && values[n] === rest)) found.push(rows[n]!);
    } else if (until === tick) {
      if (idle.overridden) found.push(rows[n]!);
    } else if (idle.silent && !soundsAt(tick) && until <= last) {
      // It is heard if a note begins while it is in force.
      if (starts[next] === undefined || starts[next]! >= until) found.push(rows[n]!);
    }
  }
  return found;
}

interface Sounding {
  /** Ticks where notes of the channel begin, in order. */
  readonly starts: readonly number[];
  /** Tick where the last of them ends. */
  readonly last: number;
  /** Whether one sounds at a tick. To be asked in rising order. */
  soundsAt(tick: number): boolean;
}

function soundingOn(events: Events, channel: number): Sounding {
  const notes = notesOf(events);
  const starts: number[] = [];
  const ends: number[] = [];
  let last = 0;
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    if ((events.status[on]! & 15) !== channel) continue;
    const end = notes.off[n] === -1 ? Infinity : events.atTick[notes.off[n]!]!;
    starts.push(events.atTick[on]!);
    ends.push(end);
    last = Math.max(last, end);
  }
  let n = 0;
  let reach = -1;
  return {
    starts,
    last,
    soundsAt(tick) {
      for (; n < starts.length && starts[n]! <= tick; n++) reach = Math.max(reach, ends[n]!);
      return reach > tick;
    },
  };
}
