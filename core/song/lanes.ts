import { usualValue } from '../instruments/usual-values.ts';
import { pickEvents } from '../smf/event-builder.ts';
import type { Events } from '../smf/events.ts';
import { isTimed, stays } from '../smf/own-events.ts';
import { withEvents, withParked, type Track } from './song.ts';
import { factsOf } from './track-facts.ts';

/**
 * A lane: one controller, the pitch bend or the channel pressure of one channel, as rows in order with
 * their values.
 */
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
  const lanes = new Map<
    string,
    { channel: number; what: Lane['what']; rows: number[]; values: number[] }
  >();
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
    lane.values.push(
      kind === 0xb ? data2[i]! : kind === 0xe ? data1[i]! | (data2[i]! << 7) : data1[i]!,
    );
  }
  const all = [...lanes.values()];
  cache.set(events, all);
  return all;
}

/** What a General MIDI module starts from (GM recommendations); undefined where there is no common value. */
export const laneDefault = (what: Lane['what']): number | undefined =>
  what === 'bend' ? 8192 : what === 'pressure' ? 0 : usualValue(what);

/** Switches: on from 64. Anything between would change nothing, so they are thinned to their changes only. */
export const isSwitch = (what: Lane['what']): boolean =>
  typeof what === 'number' && what >= 64 && what <= 69;

/** What a lane can be made of, where it is named: a controller's number, or a kind with a message of its own. */
export type LaneName = Lane['what'] | 'program';

/** `2:11`, `0:bend`: channel as stored, and what. Songs are stored with it. */
export const laneKey = (channel: number, what: LaneName): string => `${channel}:${what}`;

export function parseLaneKey(key: string): { channel: number; what: LaneName } {
  const [channel, what] = key.split(':') as [string, string];
  return { channel: Number(channel), what: /^\d+$/.test(what) ? Number(what) : (what as LaneName) };
}

/** The lane a message is of; undefined where it is of none. */
export const laneAt = (
  { status, data1 }: Events,
  i: number,
): { channel: number; what: LaneName } | undefined => laneOf(status[i]!, data1[i]!);

/** The same of a message by itself. */
export function laneOf(
  status: number,
  data1: number,
): { channel: number; what: LaneName } | undefined {
  const channel = status & 15;
  switch (status >> 4) {
    case 0xb:
      return data1 < 120 ? { channel, what: data1 } : undefined;
    case 0xc:
      return { channel, what: 'program' };
    case 0xd:
      return { channel, what: 'pressure' };
    case 0xe:
      return { channel, what: 'bend' };
    default:
      return undefined;
  }
}

/** Whether a row is parked: kept, but not played and not sent. */
export function parkedRows(track: Track): (row: number) => boolean {
  const { events, parked } = track;
  if (!parked || parked.length === 0) return () => false;
  const keys = new Set(parked);
  return (row) => {
    if (events.status[row]! >= 0xf0) return false;
    const lane = laneAt(events, row);
    return lane !== undefined && keys.has(laneKey(lane.channel, lane.what));
  };
}

/** Keys of the lanes of a track that are played: those that hold events and are not parked. */
export function playedLanes({ events, parked }: Track): ReadonlySet<string> {
  const keys = new Set<string>();
  for (let i = 0; i < events.count; i++) {
    const lane = events.status[i]! < 0xf0 ? laneAt(events, i) : undefined;
    if (lane) keys.add(laneKey(lane.channel, lane.what));
  }
  for (const key of parked ?? []) keys.delete(key);
  return keys;
}

const sentBy = new WeakMap<Track, Events>();

/**
 * What of a track is played and sent: its events without parked lanes and markers that stay. The events
 * themselves where that is all.
 */
export function sentEvents(track: Track): Events {
  const known = sentBy.get(track);
  if (known) return known;
  const isParked = parkedRows(track);
  const { events } = track;
  const isKept = (row: number): boolean =>
    isParked(row) || stays(events, row) !== undefined || isTimed(events, row);
  let first = 0;
  while (first < events.count && !isKept(first)) first++;
  const rows: number[] = [];
  for (let i = 0; first < events.count && i < events.count; i++)
    if (i < first || !isKept(i)) rows.push(i);
  const sent = first === events.count ? events : pickEvents(events, rows);
  sentBy.set(track, sent);
  return sent;
}

/** The lanes of a track that are not parked: those that may be thinned, shaped and written. */
export function freeLanes(track: Track): readonly Lane[] {
  const keys = new Set(track.parked ?? []);
  const all = lanesOf(track.events);
  return keys.size === 0 ? all : all.filter((lane) => !keys.has(laneKey(lane.channel, lane.what)));
}

/** Whether a track holds anything that is neither played nor sent. */
const keepsBack = (track: Track): boolean =>
  (track.parked?.length ?? 0) > 0 ||
  factsOf(track).timing?.anchors === true ||
  (factsOf(track).timing?.marks.some((m) => !m.travels) ?? false);

/**
 * The song as it is played and sent: without what is parked or stays. Tracks that keep nothing back are the
 * same objects.
 */
export function sentSong<S extends { readonly tracks: readonly Track[] }>(song: S): S {
  const tracks = song.tracks.map((track) => {
    if (!keepsBack(track)) return track;
    const played = withParked(track, []);
    const events = sentEvents(track);
    return events === track.events ? played : withEvents(played, events);
  });
  return tracks.every((t, i) => t === song.tracks[i]) ? song : { ...song, tracks };
}
