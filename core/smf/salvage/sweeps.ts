import type { Alignment } from './realign.ts';
import { tokenAt, type Token } from './token-costs.ts';

/** Of fewer events chance makes as many; among them stand so few others. */
const leastEvents = 6;
const mostOthers = 3;

type Placed = Alignment['events'][number];

/**
 * A sweep of a bend or a controller that comes but once in a file is as unusual as noise. What was taken to
 * be noise, or for that to be the status of a sweep, and reads in step, all but little of it one such lane,
 * is music.
 */
export function withSweeps(bytes: Uint8Array, end: number, found: Alignment): Alignment {
  const events: Placed[] = [];
  const gaps: Alignment['gaps'][number][] = [];
  let taken = 0;
  const passTo = (n: number): void => {
    for (; taken < n; taken++) events.push(found.events[taken]!);
  };
  for (const [n, gap] of found.gaps.entries()) {
    passTo(gap.before);
    const ahead = found.gaps[n + 1]?.before ?? found.events.length;
    const sweep = sweepFrom(bytes, end, gap, events.at(-1), (k) =>
      taken + k < ahead ? found.events[taken + k] : undefined,
    );
    if (sweep) {
      for (const event of sweep.events) events.push(event);
      taken += sweep.instead;
    } else gaps.push({ ...gap, before: events.length });
  }
  passTo(found.events.length);
  return gaps.length === found.gaps.length ? found : { ...found, events, gaps };
}

/**
 * The events from a gap on to where they are in step with those ahead and run on the same status, if all
 * but few are one lane; and how many of those ahead they stand instead of.
 */
function sweepFrom(
  bytes: Uint8Array,
  end: number,
  { from, to }: Alignment['gaps'][number],
  before: Placed | undefined,
  ahead: (n: number) => Placed | undefined,
): { events: Placed[]; instead: number } | undefined {
  const last = before && tokenAt(bytes, before.at, end, before.running);
  if (before && last?.next !== from) return undefined;
  const events: Placed[] = [];
  const ofLane = new Map<number, number>();
  let [running, instead] = [last?.running ?? 0, 0];
  for (let at = from; ;) {
    const token = tokenAt(bytes, at, end, running);
    if (at >= to) {
      const next = ahead(instead);
      if (next?.at !== at) return undefined;
      if (next.running === running || token?.explicit) break;
      instead++;
    }
    if (!token) return undefined;
    const lane = laneOf(token);
    if (lane !== undefined) ofLane.set(lane, (ofLane.get(lane) ?? 0) + 1);
    events.push({ at, running });
    ({ next: at, running } = token);
  }
  const most = Math.max(0, ...ofLane.values());
  return most >= leastEvents && events.length - most <= mostOthers
    ? { events, instead }
    : undefined;
}

/** Controllers by their numbers, pressure of a channel, bends; what else there is comes in no sweeps. */
function laneOf({ status, first }: Token): number | undefined {
  if ((status & 0xf0) === 0xb0) return (status << 7) | first;
  return (status & 0xf0) === 0xd0 || (status & 0xf0) === 0xe0 ? status << 7 : undefined;
}
