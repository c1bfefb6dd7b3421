import { describe, expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import { isEdl, listCsv, readCsv, readEdlList } from './lists.ts';

/** Two bars of 4/4 at 120 BPM and 96 PPQ: a bar is 384 ticks and 2 seconds. */
const song = {
  division: { kind: 'ppq', ticksPerQuarter: 96 },
  timing: { tempos: [{ atTick: 0, microsecondsPerQuarter: 500_000, bpm: 120 }], meters: [{ atTick: 0, bar: 1, numerator: 4, denominator: 4 }], keys: [], markers: [{ atTick: 384, text: 'One, two' }], cuePoints: [], startTimecode: '01:00:00:00' },
} as unknown as SongView;

describe('lists of places', () => {
  it('go out as comma-separated values, commas in texts kept', () => {
    expect(listCsv(song).split('\n')).toEqual(['kind,position,seconds,value', 'tempo,1.1.0,0.000000,120', 'meter,1.1.0,0.000000,4/4', 'marker,2.1.0,2.000000,"One, two"']);
  });

  it('come back as they went out', () => {
    expect(readCsv(listCsv(song), song)).toEqual({ marks: [{ atTick: 384, kind: 'marker', text: 'One, two' }], tempos: [{ atTick: 0, bpm: 120 }], faults: [] });
  });

  it('give the good lines and name the bad; places in bars or seconds, any delimiter', () => {
    const { marks, tempos, faults } = readCsv('\uFEFFKind;Position;Seconds;Value\nmarker;2.3;;Here\ncue point;;1.5;There\nmarker;2.9;;Nowhere\ntempo;2;;fast\ntempo;2;;90\ncolour;1;;red\nmarker;1;;\n', song);
    expect(marks).toEqual([{ atTick: 576, kind: 'marker', text: 'Here' }, { atTick: 288, kind: 'cue point', text: 'There' }]);
    expect(tempos).toEqual([{ atTick: 384, bpm: 90 }]);
    expect(faults.map((f) => f.line)).toEqual([4, 5, 7, 8]);
  });

  it('an edit decision list is laid against the start timecode, and refused without one', () => {
    const edl = 'TITLE: X\n001  AX  V  C  00:00:00:00 00:00:01:00 01:00:02:00 01:00:03:00\n';
    expect(isEdl('cut.txt', edl)).toBe(true);
    expect(readEdlList(edl, song, '25').marks).toEqual([{ atTick: 384, kind: 'marker', text: 'AX' }]);
    const without = { ...song, timing: { ...song.timing, startTimecode: undefined } } as unknown as SongView;
    expect(readEdlList(edl, without, '25').faults[0]!.why).toMatch(/no start timecode/);
  });
});
