import { meta } from '../smf/events.ts';
import { timecodeEvent } from '../smf/own-events.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { offsetEvent } from '../timing/start-timecode.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { framesOfDay, secondsToFrames, timecodeText } from '../timing/timecode.ts';
import { editMap } from './edit-map.ts';

/** Frames that are this near to whole ones are whole: a thousandth of one is less than any tick. */
const near = 1e-3;

/**
 * The song, whose music was moved by some ticks, with each bar of it at the timecode that it had: the start is
 * stated earlier by what comes before the music now, or later by what is gone. Where that is no whole number
 * of frames, the timecode is stated where the music begins.
 */
export function withTimecodeMoved(
  before: Song,
  after: Song,
  by: number,
): { readonly song: Song; readonly said?: string } {
  const { timecode, tempos } = timingOf(before);
  if (!timecode || after === before) return { song: after };
  const { rate, atTick, frames } = timecode;
  const old = tempoMap(tempos, before.division);
  const now = tempoMap(timingOf(after).tempos, after.division);
  // The bar that the music begins with now, and its address.
  const first = Math.max(0, -by);
  const address =
    frames + secondsToFrames(ticksToSeconds(old, first) - ticksToSeconds(old, atTick), rate);
  const begins = address - secondsToFrames(ticksToSeconds(now, Math.max(0, by)), rate);
  const day = framesOfDay(rate);
  const inDay = (count: number): number => ((count % day) + day) % day;
  const isWhole = (count: number): boolean => Math.abs(count - Math.round(count)) < near;
  const text = (count: number): string => timecodeText(inDay(Math.round(count)), rate);
  const at = isWhole(begins) ? 0 : Math.max(0, by);
  const says = isWhole(begins) ? Math.round(begins) : address;
  const event =
    (at === 0 ? offsetEvent(rate, inDay(says)) : undefined) ?? timecodeEvent(at, rate, text(says));
  const { song } = editMap(after, (type) => type === meta.smpteOffset, [event], 'timecode');
  return {
    song,
    said: isWhole(begins)
      ? `Each bar keeps its timecode: bar 1 begins at ${text(begins)} now.`
      : `Each bar keeps its timecode: ${text(address)} is stated where the music begins, since bar 1 begins within a frame.`,
  };
}
