import { describe, expect, it } from 'vitest';
import { mapAlone } from '../handoff/map-alone.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { meta, metaEvent } from '../smf/events.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { mapsOf, type TimedSong } from '../song/maps.ts';
import type { ListRead } from './list-read.ts';
import { isEdl, readEdlList, readList } from './lists.ts';
import { listCsv, readCsv } from './map-csv.ts';

/** Two bars of 4/4 at 120 BPM and 96 PPQ: a bar is 384 ticks and 2 seconds. */
const song = {
  division: { kind: 'ppq', ticksPerQuarter: 96 },
  timing: {
    tempos: [{ atTick: 0, microsecondsPerQuarter: 500_000, bpm: 120 }],
    meters: [{ atTick: 0, bar: 1, numerator: 4, denominator: 4 }],
    keys: [],
    markers: [{ atTick: 384, text: 'One, two' }],
    cuePoints: [],
    texts: [],
    chords: [],
    sections: [],
    timecode: { atTick: 0, rate: '25', frames: 90_000 },
  },
} as unknown as TimedSong;
const none: ListRead = { marks: [], tempos: [], meters: [], keys: [], sections: [], faults: [] };

describe('lists of places', () => {
  it('go out as comma-separated values, commas in texts kept, with timecode where the song states one', () => {
    expect(listCsv(song, mapsOf(song)).split('\n')).toEqual([
      'kind,position,seconds,timecode,value,end',
      'meter,1.1.0,0.000000,01:00:00:00,4/4,',
      'tempo,1.1.0,0.000000,01:00:00:00,120,',
      'marker,2.1.0,2.000000,01:00:02:00,"One, two",',
    ]);
    const plain = {
      ...song,
      timing: { ...song.timing, timecode: undefined },
    } as unknown as TimedSong;
    expect(listCsv(plain, mapsOf(plain)).split('\n')[3]).toBe('marker,2.1.0,2.000000,"One, two",');
  });

  it('say their places in bars, seconds, minutes or timecode, under the names that people give such columns', () => {
    const read = (csv: string) => readCsv(csv, song).marks.map((m) => [m.atTick, m.text]);
    // 120 BPM and 96 PPQ: a second is 192 ticks; the song begins at 01:00:00:00, 25 frames a second.
    expect(read('Name,Time\nDoor,1:01.5\nLamp,0:00:02\n')).toEqual([
      [61.5 * 192, 'Door'],
      [384, 'Lamp'],
    ]);
    expect(read('TC\tDescription\n01:00:01:05\tDoor\n')).toEqual([[Math.round(1.2 * 192), 'Door']]);
    expect(
      readCsv('timecode,text\n00:59:00:00,Early\n01:00:01:25,None\n', song).faults.map(
        (f) => f.line,
      ),
    ).toEqual([2, 3]);
    expect(readCsv('hello\nworld\n', song).faults).toEqual([
      { line: 1, why: expect.stringContaining('no column that says places') },
    ]);
  });

  it('are read in the encodings that spreadsheets write: UTF-8, UTF-16 with its mark, Windows-1252', () => {
    const csv = 'position,value\n2,Tür\n';
    const utf16 = Uint8Array.from([
      0xff,
      0xfe,
      ...[...csv].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8]),
    ]);
    const latin = Uint8Array.from([...csv].map((c) => c.charCodeAt(0)));
    for (const bytes of [new TextEncoder().encode(csv), utf16, latin])
      expect(
        readList({ name: 'x.csv', bytes }, song, mapsOf(song), false).marks.map((m) => m.text),
      ).toEqual(['Tür']);
  });

  it('issue 10.7: bar, beat and tick in columns of their own are one place; ticks alone count from the beginning', () => {
    const at = (csv: string) => readCsv(csv, song).marks.map((m) => m.atTick);
    // 96 ticks a beat, 384 a bar.
    expect(at('bar,beat,text\n2,3,Here\n2,,There\n')).toEqual([384 + 192, 384]);
    expect(at('Bar;Beat;Tick;Marker\n2;3;48;Here\n')).toEqual([384 + 192 + 48]);
    expect(at('tick,text\n500,Here\n')).toEqual([500]);
    expect(readCsv('bar,beat,text\n2,9,Here\n', song).faults.map((f) => f.why)).toEqual([
      expect.stringContaining('“2.9” is no place'),
    ]);
  });

  it('issue 10.7: decimal commas, BPM behind a tempo, and the separator said before all', () => {
    expect(readCsv('sep=;\nseconds;value\n1,5;Here\n', song)).toMatchObject({
      marks: [{ atTick: 288, text: 'Here' }],
      faults: [],
    });
    expect(readCsv('kind;position;value\ntempo;1;90 BPM\ntempo;2;92,5\n', song).tempos).toEqual([
      { atTick: 0, bpm: 90 },
      { atTick: 384, bpm: 92.5 },
    ]);
    expect(readCsv('sep=|\nposition|value\n9.9|Far\n', song).faults.map((f) => f.line)).toEqual([
      3,
    ]);
  });

  it('issue 10.7: what cannot be told is asked, and nothing read before it is said', () => {
    const list = new TextEncoder().encode('Start,Name\n0,Door\n12.5,Lamp\n');
    const read = (plain?: 'bars' | 'seconds') =>
      readList({ name: 'x.csv', bytes: list }, song, mapsOf(song), false, plain);
    expect(read()).toEqual({ ...none, asks: '12.5' });
    // A second is 192 ticks here; bar 0 and a fifth beat are no places.
    expect(read('seconds').marks.map((m) => [m.atTick, m.text])).toEqual([
      [0, 'Door'],
      [2400, 'Lamp'],
    ]);
    expect(read('bars').faults.map((f) => f.line)).toEqual([2, 3]);
    for (const told of [
      'bar,name\n2.5,Door\n',
      'Start,Name\n2,Door\n',
      'start,seconds,name\n2.1,5,Door\n',
      'kind,start,value\nmarker,2.1,Door\n',
      'Start,Name\n1.1.0,Door\n',
    ])
      expect(readCsv(told, song).asks).toBeUndefined();
  });

  it('issue 10.7: so they do by way of a MIDI file', () => {
    const texts = ['  indented', 'two\nlines', 'end  '];
    const events = eventsFrom([
      ...texts.map((text, n) => metaEvent(n * 96, meta.marker, new TextEncoder().encode(text))),
      metaEvent(960, meta.endOfTrack),
    ]);
    const whole = songsFromSmf(
      {
        format: 1,
        division: { kind: 'ppq', ticksPerQuarter: 96 },
        headerExtra: new Uint8Array(0),
        alienChunks: [],
        tracks: [{ events }],
      },
      'x.mid',
    )[0]!;
    const map = mapAlone(whole);
    expect(
      map.ok &&
        readList({ name: 'map.mid', bytes: map.value }, song, mapsOf(song), false).marks.map(
          (m) => m.text,
        ),
    ).toEqual(texts);
  });

  it('issue 10.7: blanks before a text and lines in it come back', () => {
    const texts = ['  indented', 'two\nlines', 'end  '];
    const spaced = {
      ...song,
      timing: { ...song.timing, markers: texts.map((text, n) => ({ atTick: n * 96, text })) },
    } as unknown as TimedSong;
    expect(readCsv(listCsv(spaced, mapsOf(spaced)), song).marks.map((m) => m.text)).toEqual(texts);
  });

  it('name lines as an editor counts them: behind empty ones, and behind texts of several lines', () => {
    expect(
      readCsv(
        '\n\nkind,position,value\n\nmarker,1,"two\nlines"\nmarker,999.9,Far\n\ntempo,1,fast\n',
        song,
      ).faults.map((f) => f.line),
    ).toEqual([7, 9]);
  });

  it('come back whole, into an empty song too: meters, keys, sections and the very microseconds', () => {
    const full = {
      ...song,
      timing: {
        ...song.timing,
        // 618,557 µs are 97 BPM; 499,998 need more decimals.
        tempos: [
          { atTick: 0, microsecondsPerQuarter: 618_557 },
          { atTick: 500, microsecondsPerQuarter: 499_998 },
        ],
        meters: [
          { atTick: 0, numerator: 3, denominator: 4 },
          { atTick: 576, numerator: 7, denominator: 8 },
        ],
        keys: [{ atTick: 288, sharps: -3, minor: true }],
        cuePoints: [{ atTick: 600, text: 'Door' }],
        markers: [],
        sections: [
          { name: 'A', fromTick: 0, toTick: 576 },
          { name: 'B', fromTick: 288, toTick: 912 },
        ],
      },
    } as unknown as TimedSong;
    const read = readCsv(listCsv(full, mapsOf(full)), song);
    expect(read.faults).toEqual([]);
    expect(read.meters).toEqual([
      { atTick: 0, numerator: 3, denominator: 4 },
      { atTick: 576, numerator: 7, denominator: 8 },
    ]);
    expect(read.tempos.map((t) => [t.atTick, Math.round(60e6 / t.bpm)])).toEqual([
      [0, 618_557],
      [500, 499_998],
    ]);
    expect(read.keys).toEqual([{ atTick: 288, sharps: -3, minor: true }]);
    expect(read.marks).toEqual([{ atTick: 600, kind: 'cue point', text: 'Door' }]);
    expect(read.sections).toEqual([
      { name: 'A', fromTick: 0, toTick: 576 },
      { name: 'B', fromTick: 288, toTick: 912 },
    ]);
  });

  it('give the good lines and name the bad; places in bars or seconds, any delimiter', () => {
    const { marks, tempos, faults } = readCsv(
      '\uFEFFKind;Position;Seconds;Value\nmarker;2.3;;Here\ncue point;;1.5;There\nmarker;2.9;;Nowhere\ntempo;2;;fast\ntempo;2;;90\ncolour;1;;red\nmarker;1;;\n',
      song,
    );
    expect(marks).toEqual([
      { atTick: 576, kind: 'marker', text: 'Here' },
      { atTick: 288, kind: 'cue point', text: 'There', anchor: 'time' },
    ]);
    expect(tempos).toEqual([{ atTick: 384, bpm: 90 }]);
    expect(faults.map((f) => f.line)).toEqual([4, 5, 7, 8]);
  });

  it('name meters, keys and sections that are none', () => {
    const read = readCsv(
      'kind,position,value,end\nmeter,1,5/3,\nmeter,1,0/4,\nkey,1,H major,\nkey,2,f# MINOR,\nsection,2,Solo,2\nsection,2,Solo,\nsection,1,Verse,2.3\n',
      song,
    );
    expect(read).toEqual({
      ...none,
      keys: [{ atTick: 384, sharps: 3, minor: true }],
      sections: [{ name: 'Verse', fromTick: 0, toTick: 576 }],
      faults: read.faults,
    });
    expect(read.faults.map((f) => f.line)).toEqual([2, 3, 4, 6, 7]);
  });

  it('are counted by their own meters alone where they come in place of those of the song (by hand: 3/4 is 288 ticks)', () => {
    const waltz = {
      ...song,
      timing: {
        ...song.timing,
        meters: [
          { atTick: 0, numerator: 4, denominator: 4 },
          { atTick: 384, numerator: 7, denominator: 8 },
        ],
      },
    } as unknown as TimedSong;
    const csv = 'kind,position,value\nmeter,1,3/4\nmarker,3,Door\n';
    // Beside the song's 7/8 bar 2 begins at tick 384, cutting the second bar of 3/4 short.
    expect(readCsv(csv, waltz).marks[0]!.atTick).not.toBe(576);
    expect(readCsv(csv, waltz, mapsOf(waltz), true).marks).toEqual([
      { atTick: 576, kind: 'marker', text: 'Door' },
    ]);
  });

  it('of edits lie against the timecode of the song, whichever bar it is stated at (25 frames a second, by hand)', () => {
    const edl = 'TITLE: X\n001  AX  V  C  00:00:00:00 00:00:01:00 01:00:01:00 01:00:02:00\n';
    expect(isEdl('a.txt', edl)).toBe(true);
    expect(readEdlList(edl, song, mapsOf(song)).marks).toEqual([
      { atTick: 192, kind: 'marker', text: 'AX', anchor: 'time' },
    ]);
    // Bar 2 at 01:00:00:00: bar 1 is two seconds before it.
    const later = {
      ...song,
      timing: { ...song.timing, timecode: { atTick: 384, rate: '25', frames: 90_000 } },
    } as unknown as TimedSong;
    expect(readEdlList(edl, later, mapsOf(later)).marks).toEqual([
      { atTick: 384 + 192, kind: 'marker', text: 'AX', anchor: 'time' },
    ]);
  });

  it('of edits need a start timecode', () => {
    const without = {
      ...song,
      timing: { ...song.timing, timecode: undefined },
    } as unknown as TimedSong;
    expect(readEdlList('TITLE: X\n', without, mapsOf(without)).faults[0]!.why).toMatch(
      /states no start timecode/,
    );
  });
});
