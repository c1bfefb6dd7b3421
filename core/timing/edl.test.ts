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
  expect(places).toEqual([{ line: 4, seconds: 0, text: 'Harbour at dusk' }, { line: 6, seconds: 4, text: 'REEL7' }, { line: 9, seconds: 5.4, text: 'Lamp goes out' }]);
  expect(faults.map((f) => [f.line, f.why])).toEqual([[7, '01:00:61:00 is no timecode at 25 frames a second'], [8, 'an edit without its four timecodes'], [10, '00:59:00:00 lies before the start timecode of the song']]);
});
