import Timecode from 'smpte-timecode';
import { describe, expect, it } from 'vitest';
import {
  framesToSeconds,
  frameRateNames,
  parseTimecode,
  secondsToFrames,
  timecodeText,
  type FrameRate,
} from './timecode.ts';

describe('timecode (SMPTE ST 12-1, from memory: the worked addresses of 30 drop-frame)', () => {
  it.each([
    [1799, '00:00:59;29'],
    [1800, '00:01:00;02'],
    [17_982, '00:10:00;00'],
    [107_892, '01:00:00;00'],
    [2_589_408, '00:00:00;00'],
    [-1, '23:59:59;29'],
  ])('frame %i is %s', (frames, text) => {
    expect(timecodeText(frames, '29.97 drop')).toBe(text);
    if (frames >= 0 && frames < 2_589_408) expect(parseTimecode(text, '29.97 drop')).toBe(frames);
  });

  it('addresses that drop-frame leaves out, and ones past their ends, are none', () => {
    for (const text of ['00:01:00;00', '00:01:00;01', '12:59:00;01'])
      expect(parseTimecode(text, '29.97 drop')).toBeUndefined();
    for (const text of ['00:00:00:25', '24:00:00:00', '00:60:00:00', '1:2:3', 'x'])
      expect(parseTimecode(text, '25')).toBeUndefined();
    expect(parseTimecode('00:10:00;00', '29.97 drop')).toBe(17_982);
  });
});

describe('against npm smpte-timecode', () => {
  const theirs: Partial<Record<FrameRate, [number, boolean]>> = {
    '23.976': [23.976, false],
    '24': [24, false],
    '25': [25, false],
    '29.97': [29.97, false],
    '29.97 drop': [29.97, true],
    '30': [30, false],
    '50': [50, false],
    '60': [60, false],
  };

  it.each(Object.entries(theirs) as [FrameRate, [number, boolean]][])(
    'every address over a day at %s agrees',
    (name, [rate, drop]) => {
      for (let frames = 0; frames < 2_000_000; frames += 997) {
        const other = Timecode(frames, rate, drop);
        expect(timecodeText(frames, name)).toBe(other.toString());
        expect(parseTimecode(other.toString(), name)).toBe(frames);
      }
    },
  );
});

it('frames to seconds and back is the same frame at every rate', () => {
  for (const name of frameRateNames)
    for (const frames of [0, 1, 1799, 107_892])
      expect(Math.round(secondsToFrames(framesToSeconds(frames, name), name))).toBe(frames);
  // 30 drop-frame keeps real time: an hour of addresses is 107,892 frames of 1001/30000 s.
  expect(framesToSeconds(107_892, '29.97 drop')).toBeCloseTo(3599.9964, 4);
});
