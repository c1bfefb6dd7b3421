import { expect, it } from 'vitest';
import { readEdl } from './edl.ts';
import { parseTimecode } from './timecode.ts';

const list = `TITLE: LANTERN REEL 2
FCM: NON-DROP FRAME

001  AX       V     C        00:00:00:00 00:00:04:00 01:00:00:00 01:00:04:00
* FROM CLIP NAME: Harbour at dusk
002  REEL7    V     D    024 00:10:00:00 00:10:02:12 01:00:04:00 01:00:06:12
003  AX       V     C        00:00:00:00 00:00:02:00 01:00:61:00 01:00:08:00
004  AX       V
* LOC: 01:00:05:10 RED Lamp goes out
005  AX       V     C        00:00:00:00 00:00:02:00 00:59:00:00 01:00:08:00
`;

it('takes edits by their record timecodes and locators, and names broken lines (worked by hand: a frame at 25 is 40 ms)', () => {
  const { places, faults } = readEdl(list, '25', parseTimecode('01:00:00:00', '25')!);
  expect(places).toEqual([
    { line: 4, seconds: 0, text: 'Harbour at dusk' },
    { line: 6, seconds: 4, text: 'REEL7' },
    { line: 9, seconds: 5.4, text: 'Lamp goes out' },
  ]);
  expect(faults.map((f) => [f.line, f.why])).toEqual([
    [7, '01:00:61:00 is no timecode at 25 frames a second'],
    [8, 'an edit without its four timecodes'],
    [10, '00:59:00:00 lies before the start timecode of the song'],
  ]);
});

it('takes each cut of the picture once: not again for its sound, nor for the picture a dissolve comes from', () => {
  const dissolve = `001  AX  V     C        00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00
001  AX  A     C        00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00
002  AX  V     C        00:00:01:00 00:00:01:00 01:00:01:00 01:00:01:00
002  BX  V     D    012 00:00:09:00 00:00:11:00 01:00:01:00 01:00:03:00
* FROM CLIP NAME: Quay
* TO CLIP NAME: Market
003  BX  AA/V  C        00:00:00:00 00:00:01:00 01:00:03:00 01:00:04:00
`;
  const read = (text: string) =>
    readEdl(text, '25', 90_000).places.map((p) => [p.line, p.seconds, p.text]);
  expect(read(dissolve)).toEqual([
    [1, 0, 'AX'],
    [4, 1, 'Market'],
    [7, 3, 'BX'],
  ]);
  // Sound alone is all there is.
  expect(read(dissolve.split('\n')[1]!)).toEqual([[1, 0, 'AX']]);
});

it('names every timecode that cannot be, and takes the edit where its record in can', () => {
  const impossible = `001  AX  V  C  00:00:00:00 00:00:61:00 01:00:00:00 01:00:01:00
002  AX  V  C  24:00:00:00 00:00:01:00 01:00:01:00 01:00:01:30
003  AX  V  C  00:00:00:00 00:00:01:00 99:99:99:99 99:99:99:99
004  AX  V  C  12+08 14+00 01:00:02:00 01:00:03:00
* LOC: 01:00:02:25 Late
`;
  const { places, faults } = readEdl(impossible, '25', 90_000);
  expect(places.map((p) => [p.line, p.seconds])).toEqual([
    [1, 0],
    [2, 1],
    [4, 2],
  ]);
  expect(faults.map((f) => [f.line, f.why])).toEqual([
    [1, '00:00:61:00 is no timecode'],
    [2, '24:00:00:00 is no timecode'],
    [2, '01:00:01:30 is no timecode at 25 frames a second'],
    [3, '99:99:99:99 is no timecode at 25 frames a second'],
    [5, '01:00:02:25 is no timecode at 25 frames a second'],
  ]);
});

it('takes names with anything in them, and locators with and without a colour or a name', () => {
  const odd = `001  AX  V  C  00:00:00:00 00:00:01:00 01:00:00:00 01:00:01:00
* FROM CLIP NAME:   Quay\u2028at   dawn  \u2028
* LOC: 01:00:00:10
* LOC: 01:00:00:11 RED
* LOC:01:00:00:12   Redwood  door
`;
  expect(readEdl(odd, '25', 90_000).places.map((p) => p.text)).toEqual([
    'Quay\u2028at   dawn',
    'Locator',
    'Locator',
    'Redwood  door',
  ]);
});

it('says where a list counts another way than the song', () => {
  expect(readEdl('FCM: DROP FRAME\n', '29.97', 0).faults).toMatchObject([
    { line: 1, why: expect.stringContaining('the list counts drop-frame, the song every frame') },
  ]);
  expect(readEdl('FCM: NON-DROP FRAME\n', '29.97 drop', 0).faults).toHaveLength(1);
  for (const rate of ['29.97 drop', '25', '24'] as const)
    expect(readEdl('FCM: DROP FRAME\n', rate, 0).faults).toEqual([]);
});
