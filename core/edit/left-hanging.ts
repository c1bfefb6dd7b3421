import { channelEvent, endTick, type EventValue } from '../smf/events.ts';
import { freeLanes, isSwitch, type Lane } from '../song/lanes.ts';
import type { Track } from '../song/song.ts';

/**
 * The value that brings a lane back which is left where it should not be: a bend off centre (its coarse
 * half), a pedal down.
 */
export function leftHanging(lane: Lane): number | undefined {
  const last = lane.values.at(-1)!;
  if (lane.what === 'bend') return last === 8192 ? undefined : 64;
  return isSwitch(lane.what) && lane.what !== 68 && last >= 64 ? 0 : undefined;
}

/** What brings the lanes of a track that are left hanging back, at its end. */
export function settling(track: Track): EventValue[] {
  const at = endTick(track.events);
  return freeLanes(track).flatMap((lane): EventValue[] => {
    const value = leftHanging(lane);
    if (value === undefined) return [];
    return [
      lane.what === 'bend'
        ? channelEvent(at, 0xe0 | lane.channel, 0, value)
        : channelEvent(at, 0xb0 | lane.channel, lane.what as number, value),
    ];
  });
}
