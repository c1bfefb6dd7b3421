import { describe, expect, it } from 'vitest';
import { bpmText, count, counts, duration, fileSize, tempoText } from './text.ts';

describe('numbers as the page says them', () => {
  it('counts in the singular and plural', () => {
    expect([
      count(1, 'note'),
      count(0, 'note'),
      count(1200, 'note'),
      count(2, 'copy', 'copies'),
    ]).toEqual(['1 note', '0 notes', '1,200 notes', '2 copies']);
  });

  it('says durations as m:ss, with thousandths where asked, with hours from one hour on', () => {
    expect([0, 59.6, 60, 276.999, 3600, 36061].map((s) => duration(s))).toEqual([
      '0:00',
      '1:00',
      '1:00',
      '4:37',
      '1:00:00',
      '10:01:01',
    ]);
    expect([0, 8, 61.0004, 59.9996].map((s) => duration(s, true))).toEqual([
      '0:00.000',
      '0:08.000',
      '1:01.000',
      '1:00.000',
    ]);
  });

  it('says sizes and tempos without figures that mean nothing', () => {
    expect([12, 37640, 4_224_737].map(fileSize)).toEqual(['12 bytes', '37.6 kB', '4.2 MB']);
    expect([120, 96.99995, 132.5].map(bpmText)).toEqual(['120', '97', '132.5']);
  });

  it('lists counts by kind, notes first, then the most frequent, kinds without a plural as they are', () => {
    expect(counts({ name: 1, controller: 20, note: 3, pressure: 7, 'system exclusive': 2 })).toBe(
      '3 notes, 20 controllers, 7 pressure, 2 system exclusive, 1 name',
    );
    expect(counts({})).toBe('');
  });
});

it('says tempos in the beat of their meter, with the quarter beside it where that is another (by hand: 84 dotted quarters are 126 quarters)', () => {
  expect(tempoText(476_190, { numerator: 9, denominator: 8 })).toBe('84 BPM, 126 of the quarter');
  expect(tempoText(500_000, { numerator: 2, denominator: 2 })).toBe('60 BPM, 120 of the quarter');
  expect(tempoText(618_557, { numerator: 3, denominator: 4 })).toBe('97 BPM');
});
