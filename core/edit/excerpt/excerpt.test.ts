import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { busySong } from '../../../tests/support/busy-song.ts';
import { metByNotes } from '../../../tests/support/instrument-state.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { controller, note, songOf } from '../../../tests/support/songs.ts';
import { addressAt } from '../../timing/start-timecode.ts';
import { keyAt } from '../../../tests/support/key-at.ts';
import { barTick, meterAt, meterMap, positionAt, type MeterMap } from '../../timing/meter-map.ts';
import { tempoAt, tempoMap } from '../../timing/tempo-map.ts';
import { channelEvent, eventValues, meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { timingOf } from '../../song/timing-of.ts';
import type { Song } from '../../song/song.ts';
import { excerptOf } from './excerpt.ts';

const text = (tick: number, type: number, says: string) => metaEvent(tick, type, encodeText(says));
const lines = (song: Song): string[][] =>
  song.tracks.map(({ events }) =>
    eventValues(events).map(
      (e) =>
        `${e.atTick} ${e.status.toString(16)} ${e.status === 0xff ? e.data1.toString(16) : [e.data1, e.data2].join(' ')}`,
    ),
  );

/** Where the bar of a tick begins, and its meter. */
const barAt = (meters: MeterMap, tick: number): [number, number, number] => {
  const { numerator, denominator } = meterAt(meters, tick);
  return [barTick(meters, positionAt(meters, tick).bar), numerator, denominator];
};

describe('some bars of a song', () => {
  it('each note meets what it met in the whole song, by an instrument that goes by values', () => {
    fc.assert(
      fc.property(
        busySong,
        fc.integer({ min: 0, max: 12 }).map((n) => n * 32),
        (song, from) => {
          const { song: part } = excerptOf(song, { from, to: Infinity });
          const whole = metByNotes(song)
            .map((line) => /^(\d+) (\d+) (.*)$/.exec(line)!.slice(1) as [string, string, string])
            .filter(([, tick]) => Number(tick) >= from)
            .map(([channel, tick, rest]) => `${channel} ${Number(tick) - from} ${rest}`);
          expect(metByNotes(part)).toEqual(whole);
        },
      ),
      { numRuns: scaleRuns(1000) },
    );
  });

  it('data meant for no parameter reach none that was chosen before (hand-worked)', () => {
    // Bend range 2; then data after the null parameter, after a reset, and on the tick before its reset.
    const bendRange = (tick: number) => [
      controller(tick, 101, 0),
      controller(tick, 100, 0),
      controller(tick, 6, 2),
    ];
    const nothing = [controller(20, 101, 127), controller(20, 100, 127), controller(30, 6, 9)];
    const reset = [controller(20, 121, 0), controller(30, 38, 9), controller(384, 121, 0)];
    const here = [controller(20, 121, 0), controller(384, 6, 9), controller(384, 121, 0)];
    for (const stray of [nothing, reset, here]) {
      const song = songOf([...bendRange(10), ...stray, ...note(384, 96, 60)]);
      const { song: part } = excerptOf(song, { from: 384, to: 768 });
      expect(metByNotes(part)[0]).toContain('["RPN 0 0",2,null,0]');
      expect(metByNotes(song)[0]).toContain('["RPN 0 0",2,null,0]');
    }
  });

  it('says no more anew than counts, behind what sets the track up (hand-worked)', () => {
    const song = songOf([
      text(0, meta.trackName, 'Horn'),
      controller(0, 7, 90),
      controller(10, 7, 100),
      controller(20, 1, 5),
      controller(30, 121, 0),
      channelEvent(40, 0xc0, 60),
      ...note(50, 10, 60),
      ...note(380, 20, 61),
      channelEvent(384, 0xc0, 61),
      ...note(384, 500, 62),
      controller(768, 7, 1),
    ]);
    const { song: part, cutOff } = excerptOf(song, { from: 384, to: 768 });
    expect(lines(part)).toEqual([
      [
        '0 ff 3',
        '0 b0 7 100',
        '0 b0 121 0',
        '0 c0 61 0',
        '0 90 62 80',
        '500 80 62 64',
        '500 ff 2f',
      ],
    ]);
    expect(cutOff).toBe(1);
  });

  it('leaves nothing hanging at its end: a pedal goes up, a bend back to its centre (hand-worked)', () => {
    const song = songOf([
      ...note(0, 96, 60),
      controller(10, 64, 127),
      channelEvent(20, 0xe0, 0, 90),
      controller(400, 64, 0),
      channelEvent(400, 0xe0, 0, 64),
    ]);
    expect(lines(excerptOf(song, { from: 0, to: 384 }).song)[0]!.slice(-3)).toEqual([
      '384 b0 64 0',
      '384 e0 0 64',
      '384 ff 2f',
    ]);
  });

  it('keeps a song that begins at its own start as it is', () => {
    fc.assert(
      fc.property(madeSong, (song) => {
        const { song: part } = excerptOf(song, { from: 0, to: Infinity });
        expect(lines(part)).toEqual(lines(song));
      }),
    );
  });

  it('has the tempo, meter and key of its place, tick for tick', () => {
    fc.assert(
      fc.property(madeSong, fc.integer({ min: 2, max: 6 }), (song, bar) => {
        const meters = meterMap(timingOf(song).meters, song.division);
        const from = barTick(meters, bar);
        const part = excerptOf(song, { from, to: Infinity }).song;
        const [there, here] = [timingOf(song), timingOf(part)];
        const [was, is] = [there, here].map((t) => tempoMap(t.tempos, song.division)) as [
          ReturnType<typeof tempoMap>,
          ReturnType<typeof tempoMap>,
        ];
        const own = meterMap(here.meters, part.division);
        for (let tick = from; tick < there.endTick; tick += 24) {
          expect(tempoAt(is, tick - from)).toBe(tempoAt(was, tick));
          expect(barAt(own, tick - from)).toEqual(
            barAt(meters, tick).map((at, n) => (n ? at : at - from)),
          );
          expect(keyAt(here, tick - from)).toEqual(keyAt(there, tick));
        }
      }),
    );
  });

  it('has the sections that lie within, to its very end, and no marks of others', () => {
    const song = songOf([
      text(0, meta.marker, 'Verse'),
      text(384, meta.marker, 'Chorus'),
      text(768, meta.marker, 'Chorus (end)'),
      text(768, meta.marker, 'Verse (end)'),
      text(500, meta.marker, 'Hit'),
      ...note(768, 10, 60),
    ]);
    const { sections, markers } = timingOf(excerptOf(song, { from: 384, to: 768 }).song);
    expect(sections.map((s) => [s.name, s.fromTick, s.toTick])).toEqual([['Chorus', 0, 384]]);
    expect(markers.map((m) => [m.text, m.atTick])).toEqual([['Hit', 116]]);
  });

  it('begins at the timecode of its place', () => {
    // 01:00:00:00 at 25 frames a second (two bits 01, SMF 1.0); bar 2 at 120 BPM is two seconds later.
    const song = songOf([
      metaEvent(0, meta.smpteOffset, Uint8Array.of(0x21, 0, 0, 0, 0)),
      ...note(384, 10, 60),
    ]);
    const { timecode } = timingOf(excerptOf(song, { from: 384, to: Infinity }).song);
    expect(timecode && addressAt(timecode, tempoMap([], song.division), 0)).toBe('01:00:02:00');
  });

  it('of named events takes these, and the ends of their notes', () => {
    const song = songOf(
      [
        text(0, meta.trackName, 'Horn'),
        controller(0, 7, 90),
        ...note(50, 10, 60),
        ...note(70, 5, 61),
      ],
      note(0, 10, 40),
    );
    const { song: part } = excerptOf(song, { from: 0, to: Infinity }, { rows: { t1: [[2, 2]] } });
    expect(lines(part)).toEqual([['0 ff 3', '50 90 60 80', '60 80 60 64', '60 ff 2f']]);
  });
});
