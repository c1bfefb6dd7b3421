import type { Events } from '../smf/events.ts';
import { soundingOn, stretches } from './heard.ts';
import { isSwitch, laneDefault, type Lane } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';

export interface Idle {
  /** Followed by another value on the same tick. */
  readonly overridden: boolean;
  /** Changes while nothing sounds on the channel; the last before a note counts as heard. */
  readonly silent: boolean;
  /** Comes when nothing on the channel begins or sounds any more. Values that bring the lane to rest count as heard. */
  readonly after: boolean;
}

/**
 * Rows of a lane that change nothing one could hear, in order. What sounds is what any track that may play
 * the same instrument plays on the channel, and what pedals hold.
 */
export function idleRows(song: Song, events: Events, lane: Lane, idle: Idle): number[] {
  const { rows, values, channel, what } = lane;
  const { starts, last, soundsAt } = soundingOn(song, events, channel);
  const rest = laneDefault(what);
  const found: number[] = [];
  let next = 0;
  for (const stretch of stretches(song, events, lane)) {
    for (const [place, n] of stretch.entries()) {
      const tick = events.atTick[rows[n]!]!;
      const following = stretch[place + 1];
      const until = following === undefined ? Infinity : events.atTick[rows[following]!]!;
      while (next < starts.length && starts[next]! < tick) next++;
      if (tick > last) {
        if (idle.after && starts.length > 0 && !(n === rows.length - 1 && values[n] === rest))
          found.push(rows[n]!);
      } else if (until === tick) {
        if (
          idle.overridden &&
          !isReleased(lane, n) &&
          !noteBegins(events, rows[n]!, rows[following!]!, channel)
        )
          found.push(rows[n]!);
      } else if (following !== undefined && idle.silent && !soundsAt(tick) && until <= last) {
        // It is heard if a note begins while it is in force.
        if (starts[next] === undefined || starts[next]! >= until) found.push(rows[n]!);
      }
    }
  }
  return found;
}

/** A pedal that goes up between two that are down lets go of what it held, on whatever tick it goes down again. */
const isReleased = ({ what, values }: Lane, n: number): boolean =>
  isSwitch(what) && values[n]! < 64 && (values[n - 1] ?? 0) >= 64;

/** Whether a note begins between two rows of a tick: it may take its value from the first. */
function noteBegins(
  { status, data2 }: Events,
  after: number,
  before: number,
  channel: number,
): boolean {
  for (let i = after + 1; i < before; i++)
    if (status[i] === (0x90 | channel) && data2[i]! > 0) return true;
  return false;
}
