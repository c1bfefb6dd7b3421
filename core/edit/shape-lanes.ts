import { channelEvent, type Events, type EventValue } from '../smf/events.ts';
import { freeLanes, laneAt, type Lane, type LaneName } from '../song/lanes.ts';
import type { TickSpan } from '../song/scope.ts';
import type { Track } from '../song/song.ts';
import { isNamed } from './lane-settings.ts';
import { counted, within, without, type Edited } from './rewrite.ts';

/** Greatest value of a lane. */
export const laneTop = (what: LaneName): number => (what === 'bend' ? 16_383 : 127);

/** The message that sets a lane to a value. */
export function laneEvent(
  atTick: number,
  channel: number,
  what: Lane['what'],
  value: number,
): EventValue {
  if (what === 'bend') return channelEvent(atTick, 0xe0 | channel, value & 127, value >> 7);
  if (what === 'pressure') return channelEvent(atTick, 0xd0 | channel, value);
  return channelEvent(atTick, 0xb0 | channel, what, value);
}

/** Writes a lane's value into columns that may be changed. */
export function setLaneValue(
  { data1, data2 }: { data1: Uint8Array; data2: Uint8Array },
  row: number,
  what: Lane['what'],
  value: number,
): void {
  if (what === 'bend') data1[row] = value & 127;
  if (what === 'pressure') data1[row] = value;
  else data2[row] = what === 'bend' ? value >> 7 : value;
}

/**
 * New values for the values of named lanes within a span; the events stay where they are. `shape` gets a
 * lane's values and ticks in the span, and gives as many values, which are rounded and kept in range.
 */
export function shapeLanes(
  track: Track,
  span: TickSpan,
  lanes: readonly LaneName[],
  shape: (values: readonly number[], ticks: readonly number[], lane: Lane) => readonly number[],
): Edited {
  const { events } = track;
  const columns = { data1: events.data1.slice(), data2: events.data2.slice() };
  const counts: Record<string, number> = {};
  let [seen, repeats] = [0, 0];
  for (const lane of freeLanes(track)) {
    if (!isNamed(lanes, lane.what)) continue;
    const at = lane.rows.flatMap((row, n) => (within(span, events, row) ? [n] : []));
    seen += at.length;
    const values = at.map((n) => lane.values[n]!);
    const shaped = shape(
      values,
      at.map((n) => events.atTick[lane.rows[n]!]!),
      lane,
    );
    let before: number | undefined;
    at.forEach((n, i) => {
      const value = Math.min(laneTop(lane.what), Math.max(0, Math.round(shaped[i]!)));
      if (value === before && lane.values[n] !== lane.values[n - 1]) repeats++;
      before = value;
      if (value === lane.values[n]) return;
      setLaneValue(columns, lane.rows[n]!, lane.what, value);
      const kind = typeof lane.what === 'number' ? 'controller' : lane.what;
      counts[kind] = (counts[kind] ?? 0) + 1;
    });
  }
  if (seen === 0) return { left: 'It has no such lane there, or it is parked.' };
  if (Object.keys(counts).length === 0) return { left: 'Its values are that already.' };
  return {
    events: { ...events, ...columns } satisfies Events,
    counts,
    ...(repeats > 0
      ? {
          detail: `${counted(repeats, 'value')} ${repeats === 1 ? 'says' : 'say'} now what the one before says (Thin controllers leaves that out)`,
        }
      : {}),
  };
}

/** The events without what a lane says on the ticks that `there` names, and how many went. */
export function withoutLane(
  events: Events,
  channel: number,
  what: Lane['what'],
  there: (tick: number) => boolean,
): { rest: Events; gone: number } {
  const rest =
    without(events, (i) => {
      if (!there(events.atTick[i]!) || events.status[i]! >= 0xf0) return false;
      const lane = laneAt(events, i);
      return lane !== undefined && lane.channel === channel && lane.what === what;
    }) ?? events;
  return { rest, gone: events.count - rest.count };
}
