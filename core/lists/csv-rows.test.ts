import { expect, it } from 'vitest';
import { csvRows, parseSeconds } from './csv-rows.ts';

it('columns are told by their names, whatever parts them; of two of one meaning the first that says something counts', () => {
  expect(csvRows('Name;Comment;Start\n;Door;2.1\nLamp;x;3\n')).toEqual([
    { line: 2, cells: { value: 'Door', position: '2.1' } },
    { line: 3, cells: { value: 'Lamp', position: '3' } },
  ]);
  expect(csvRows('#,TC\n1,01:00:00:00')).toEqual([{ line: 2, cells: { timecode: '01:00:00:00' } }]);
  expect([csvRows(''), csvRows('name\nDoor')]).toEqual(['no columns', 'no columns']);
});

it.each([
  ['12', 12],
  ['1.25', 1.25],
  ['1:02.5', 62.5],
  ['1:00:01', 3601],
  ['90:00', 5400],
  ['', undefined],
  ['1:', undefined],
  ['-1', undefined],
  ['a', undefined],
  ['1:2:3:4', undefined],
])('%j is %j seconds', (text, seconds) => {
  expect(parseSeconds(text)).toBe(seconds);
});
