import type { Events } from '../../smf/events.ts';

/** Whether a row is a part of an RPN or NRPN message, or enters data for one. */
export const isParameter = ({ status, data1 }: Events, i: number): boolean =>
  status[i]! >> 4 === 0xb && parameters.has(data1[i]!);
const parameters: ReadonlySet<number> = new Set([6, 38, 96, 97, 98, 99, 100, 101]);

/**
 * The rows that set pitch bend ranges (RPN 0, MIDI 1.0): what chose the parameter, what was entered, and
 * the null that closes it.
 */
export function bendRangeRows(events: Events): Set<number> {
  const rows = new Set<number>();
  /** By channel, the rows that chose the parameter that data go to. */
  const chosen = new Map<number, { high?: number; low?: number; registered: boolean }>();
  for (let i = 0; i < events.count; i++) {
    if (!isParameter(events, i)) continue;
    const channel = events.status[i]! & 15;
    const number = events.data1[i]!;
    const now = chosen.get(channel) ?? { registered: false };
    if (number >= 98) {
      const registered = number >= 100;
      const had = now.registered === registered ? now : { registered };
      chosen.set(channel, { ...had, [number % 2 === 1 ? 'high' : 'low']: i });
      if (registered && events.data2[i] === 127) rows.add(i);
    } else if (now.registered && isZero(events, now.high) && isZero(events, now.low))
      rows.add(now.high!).add(now.low!).add(i);
  }
  return rows;
}

const isZero = ({ data2 }: Events, row: number | undefined): boolean =>
  row !== undefined && data2[row] === 0;
