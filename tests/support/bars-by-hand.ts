import { eventValues, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import type { Song } from '#core/song/song.ts';

/**
 * Songs at 96 PPQ as lists of events that are written by hand: a bar of 4/4 is 384 ticks, bars begin at 0,
 * 384, 768, 1152.
 */
export const end = (bars: number, bar = 384) => metaEvent(bars * bar, meta.endOfTrack);
const said = (e: EventValue): string => {
  const of = e.status === 0xff ? `ff${e.data1.toString(16)}` : e.status.toString(16);
  const bytes = e.status >= 0xf0 ? [...e.payload].join(',') : `${e.data1},${e.data2}`;
  return `${e.atTick} ${of} ${bytes}`.trim();
};
export const lines = (song: Song, n = 0): string[] => eventValues(song.tracks[n]!.events).map(said);
/** A scope of bars, of all tracks. */
export const of = (from: number, to = from) => ({ tracks: 'all' as const, bars: { from, to } });
export const on = (tick: number, key: number) => `${tick} 90 ${key},80`;
export const off = (tick: number, key: number) => `${tick} 80 ${key},64`;
export const ends = (tick: number) => `${tick} ff2f`;
/** Which keys begin when, in quarters. */
export const keys = (song: Song, n = 0): string =>
  eventValues(song.tracks[n]!.events)
    .filter((e) => e.status >> 4 === 9)
    .map((e) => `${e.data1}@${e.atTick / 96}`)
    .join(' ');
