import { meta, metaEvent, type EventValue } from '../smf/events.ts';
import { tempoAt, ticksToSeconds, type TempoMap } from './tempo-map.ts';
import {
  frameRates,
  framesOfDay,
  secondsToFrames,
  timecodeText,
  type FrameRate,
} from './timecode.ts';
import type { StatedTimecode } from './timing.ts';

/** Frames from 00:00:00:00 at a tick, whole and part; may lie before midnight. */
export const framesAt = (
  { atTick, frames, rate }: StatedTimecode,
  map: TempoMap,
  tick: number,
): number =>
  frames + secondsToFrames(ticksToSeconds(map, tick) - ticksToSeconds(map, atTick), rate);

/**
 * The frame that a tick is in; a tick that stands for a frame, as near as ticks can, is in that frame and
 * not in the one before.
 */
export function frameOf(stated: StatedTimecode, map: TempoMap, tick: number): number {
  const halfTick = secondsToFrames(tempoAt(map, tick) / map.scale / 2, stated.rate);
  return Math.floor(framesAt(stated, map, tick) + Math.min(0.499, halfTick) + 1e-6);
}

export const addressAt = (stated: StatedTimecode, map: TempoMap, tick: number): string =>
  timecodeText(frameOf(stated, map, tick), stated.rate);

/** Frame rates that an SMPTE offset can state, with its two bits (SMF 1.0). */
export const sayableRates: Readonly<Partial<Record<FrameRate, number>>> = {
  '24': 0,
  '25': 1,
  '29.97 drop': 2,
  '30': 3,
};

/**
 * The SMPTE offset that says where a song begins; undefined at a rate it has no bits for. Parts of a frame
 * are hundredths.
 */
export function offsetEvent(rate: FrameRate, frames: number): EventValue | undefined {
  const bits = sayableRates[rate];
  if (bits === undefined) return undefined;
  const day = framesOfDay(rate);
  const hundredths = ((Math.round(frames * 100) % (day * 100)) + day * 100) % (day * 100);
  const [h, m, s, f] = timecodeText(Math.floor(hundredths / 100), rate)
    .split(/[:;]/)
    .map(Number) as [number, number, number, number];
  return metaEvent(0, meta.smpteOffset, Uint8Array.of((bits << 5) | h, m, s, f, hundredths % 100));
}

/** Rate as a number, as people say it. */
export const rateNumber = (rate: FrameRate): number => Number(rate.split(' ')[0]);

export const isFrameRate = (name: string): name is FrameRate => Object.hasOwn(frameRates, name);
