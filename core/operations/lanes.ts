import type { Events } from '../smf/events.ts';

/** A lane: one controller, the pitch bend or the channel pressure of one channel, as rows in order with their values. */
export interface Lane {
  readonly channel: number;
  /** Controller 0–119, or one of the two kinds that have a message of their own. */
  readonly what: number | 'bend' | 'pressure';
  readonly rows: readonly number[];
  /** 0–127; 0–16383 for bend, 8192 its centre. */
  readonly values: readonly number[];
}

/** Controllers that are parts of larger messages or say nothing continuous: never thinned or drawn as lanes. */
const notLanes: ReadonlySet<number> = new Set([0, 6, 32, 38, 96, 97, 98, 99, 100, 101]);

const cache = new WeakMap<Events, readonly Lane[]>();

/** The lanes of a track, by channel and controller. */
export function lanesOf(events: Events): readonly Lane[] {
  const known = cache.get(events);
  if (known) return known;
  const lanes = new Map<string, { channel: number; what: Lane['what']; rows: number[]; values: number[] }>();
  const { status, data1, data2, count } = events;
  for (let i = 0; i < count; i++) {
    const kind = status[i]! >> 4;
    if (kind !== 0xb && kind !== 0xe && kind !== 0xd) continue;
    if (kind === 0xb && (data1[i]! >= 120 || notLanes.has(data1[i]!))) continue;
    const what = kind === 0xb ? data1[i]! : kind === 0xe ? 'bend' : 'pressure';
    const key = `${status[i]! & 15} ${what}`;
    let lane = lanes.get(key);
    if (!lane) lanes.set(key, (lane = { channel: status[i]! & 15, what, rows: [], values: [] }));
    lane.rows.push(i);
    lane.values.push(kind === 0xb ? data2[i]! : kind === 0xe ? data1[i]! | (data2[i]! << 7) : data1[i]!);
  }
  const all = [...lanes.values()];
  cache.set(events, all);
  return all;
}

/** What a General MIDI module starts from (GM recommendations); undefined where there is no common value. */
export const laneDefault = (what: Lane['what']): number | undefined => (what === 'bend' ? 8192 : what === 'pressure' ? 0 : ({ 1: 0, 7: 100, 10: 64, 11: 127, 64: 0, 65: 0, 66: 0, 67: 0 } as Record<number, number>)[what]);

/** Switches: on from 64. Anything between would change nothing, so they are thinned to their changes only. */
export const isSwitch = (what: Lane['what']): boolean => typeof what === 'number' && what >= 64 && what <= 69;
