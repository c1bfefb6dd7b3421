import { describe, expect, it } from 'vitest';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { lookOver } from '../looking/look-over.ts';
import { channelEvent, eventValues, meta, metaEvent, type EventValue } from '../smf/events.ts';
import type { Song } from '../song/song.ts';

const at = (song: Song, track = 0): string[] =>
  eventValues(song.tracks[track]!.events)
    .filter((e) => e.status < 0xf0)
    .map((e) => `${e.atTick} ${e.status.toString(16)} ${e.data1} ${e.data2}`);
const detail = (done: ReturnType<typeof take>): string =>
  done.report.changes.map((c) => c.detail ?? '').join(' ');
const off = (tick: number, key: number, velocity = 64): EventValue =>
  channelEvent(tick, 0x80, key, velocity);
const on = (tick: number, key: number, velocity: number): EventValue =>
  channelEvent(tick, 0x90, key, velocity);

describe('issue 10.2: two notes at once on a key', () => {
  // First in, first out: the first of each pair ends first. 60: soft and short, then loud and long; 62:
  // loud and short, then soft and long; 64: twice the same.
  const pairs = songOf([
    on(0, 60, 40),
    on(0, 60, 90),
    off(20, 60),
    off(80, 60),
    on(100, 62, 100),
    on(100, 62, 30),
    off(120, 62),
    off(190, 62),
    on(200, 64, 70),
    on(200, 64, 70),
    off(250, 64),
    off(250, 64),
  ]);

  it('by default one stays that is as loud as the louder and as long as the longer; what is equal in every value is dropped, and counted apart', () => {
    const done = take(pairs, 'notes.repair');
    expect(at(done.song)).toEqual([
      '0 90 60 90',
      '80 80 60 64',
      '100 90 62 100',
      '190 80 62 64',
      '200 90 64 70',
      '250 80 64 64',
    ]);
    expect(detail(done)).toBe(
      '1 dropped as duplicates, 2 joined with another of the same key and beginning: the louder and longer stays',
    );
    expect(done.report.changes[0]!.counts).toEqual({ note: 3 });
  });

  it.each([
    ['the louder', ['0 90 60 90', '80 80 60 64', '100 90 62 100', '120 80 62 64']],
    ['the longer', ['0 90 60 90', '80 80 60 64', '100 90 62 30', '190 80 62 64']],
    ['the first', ['0 90 60 40', '20 80 60 64', '100 90 62 100', '120 80 62 64']],
  ])('or %s as it stands', (together, expected) => {
    expect(at(take(pairs, 'notes.repair', { together }).song).slice(0, 4)).toEqual(expected);
  });

  it('another release velocity is another note, and the longer of two is cut where the next of the key begins', () => {
    const released = songOf([on(0, 60, 40), on(0, 60, 40), off(20, 60, 10), off(20, 60, 90)]);
    expect(detail(take(released, 'notes.repair'))).toContain('1 joined');
    const next = songOf([
      on(0, 60, 40),
      on(0, 60, 90),
      off(20, 60),
      on(50, 60, 80),
      off(80, 60),
      off(99, 60),
    ]);
    expect(at(take(next, 'notes.repair').song)).toEqual([
      '0 90 60 90',
      '50 80 60 64',
      '50 90 60 80',
      '99 80 60 64',
    ]);
  });

  it('the look-over counts them apart, and finds nothing once they are repaired', () => {
    const titles = (song: Song) =>
      lookOver(song)
        .map((f) => f.title)
        .filter((t) => t.includes('note'));
    expect(titles(pairs).join()).toContain(
      '1 note of track 1 is written twice, 2 are struck together with another of their key',
    );
    expect(titles(take(pairs, 'notes.repair').song).join()).not.toMatch(
      /written twice|struck together/,
    );
  });
});

describe('issue 10.5: notes of a key are kept apart when they move', () => {
  it('a note ends where the next of its key begins; one that would fall on another stays; both are told', () => {
    // Quantised to sixteenths of 24 ticks, the second and third both want 48.
    const song = songOf(
      [...note(0, 40, 60), ...note(39, 5, 62), ...note(50, 4, 62), ...note(44, 10, 60)].sort(
        (a, b) => a.atTick - b.atTick,
      ),
    );
    const done = take(song, 'notes.quantise');
    expect(at(done.song).filter((e) => e.includes(' 62 '))).toEqual([
      '48 90 62 80',
      '50 80 62 64',
      '50 90 62 80',
      '54 80 62 64',
    ]);
    expect(detail(done)).toBe(
      '1 ends where the next of the key begins, 1 stays where another of the key would stand',
    );
  });
});

describe('issue 10.8: notes keep a length, and pressure its note', () => {
  it('a coarser resolution and music that keeps its seconds leave every note a tick at least, counted', () => {
    const song = songOf([...note(0, 1, 60), ...note(10, 1, 62), ...note(96, 48, 64)]);
    const coarse = take(song, 'timing.resolution', { ppq: 4 });
    expect(at(coarse.song)).toEqual([
      '0 90 60 80',
      '0 90 62 80',
      '1 80 60 64',
      '1 80 62 64',
      '4 90 64 80',
      '6 80 64 64',
    ]);
    expect(detail(coarse)).toContain('2 short notes kept one tick long');
    const slow = take(song, 'timing.tempo', { bpm: 30, music: 'keeps its seconds' });
    expect(detail(slow)).toContain('2 short notes kept one tick long');
  });

  it('poly pressure is transposed, folded and dropped with the note that it presses', () => {
    const press = (tick: number, key: number) => channelEvent(tick, 0xa0, key, 50);
    const song = songOf([
      on(0, 60, 80),
      press(10, 60),
      off(20, 60),
      press(30, 60),
      on(40, 125, 80),
      press(45, 125),
      off(50, 125),
    ]);
    const pressure = (s: Song) => at(s).filter((e) => e.includes(' a0 '));
    expect(pressure(take(song, 'notes.transpose', { semitones: 5 }).song)).toEqual([
      '10 a0 65 50',
      '30 a0 60 50',
      '45 a0 118 50',
    ]);
    expect(pressure(take(song, 'notes.transpose', { semitones: 5, outside: 'drop' }).song)).toEqual(
      ['10 a0 65 50', '30 a0 60 50'],
    );
    expect(
      pressure(take(song, 'notes.transpose', { semitones: 5, outside: 'report' }).song),
    ).toEqual(['10 a0 65 50', '30 a0 60 50', '45 a0 125 50']);
    expect(pressure(take(song, 'notes.remove', { lowestKey: 100 }).song)).toEqual([
      '10 a0 60 50',
      '30 a0 60 50',
    ]);
  });

  it('over the edge of the bars too: it goes with a note that begins there', () => {
    const song = songOf([
      on(380, 60, 80),
      channelEvent(390, 0xa0, 60, 50),
      off(400, 60),
      metaEvent(384 * 3, meta.endOfTrack),
    ]);
    expect(
      at(take(song, 'notes.transpose', { semitones: 2 }, { bars: { from: 1, to: 1 } }).song),
    ).toEqual(['380 90 62 80', '390 a0 62 50', '400 80 62 64']);
    expect(
      take(song, 'notes.transpose', { semitones: 2 }, { bars: { from: 2, to: 2 } }).report.changes,
    ).toEqual([]);
  });
});

describe('issue 10.6: ports', () => {
  const port = (n: number) => metaEvent(0, meta.port, Uint8Array.of(n));
  const song = songOf(
    [port(0), ...note(0, 10, 60)],
    [port(1), ...note(0, 10, 64)],
    [port(1), ...note(0, 10, 67, 80, 3)],
  );

  it('merging tracks of two ports that share a channel says what becomes of it, and the remedy', () => {
    expect(detail(take(song, 'tracks.merge'))).toContain(
      'on channel 1 tracks of several ports play one instrument now, and each program of one is heard on the others: give the tracks channels of their own first (Set channels)',
    );
    expect(detail(take(take(song, 'tracks.channel').song, 'tracks.merge'))).not.toContain('port');
    expect(detail(take(song, 'tracks.merge', {}, { tracks: ['t2', 't3'] }))).not.toContain('ports');
  });

  it('so does the slip of a format 0 file', () => {
    const notes = (s: Song, format: 0 | 1): string => {
      const made = makeHandoff(
        s,
        { received: s, asRead: s },
        { format, runningStatus: true, chunks: true },
      );
      return made.ok ? made.value.notes.join(' ') : made.problem.code;
    };
    expect(notes(song, 0)).toContain('A format 0 file has one port: on channel 1');
    expect(notes(song, 1)).not.toContain('port');
    expect(notes(take(song, 'tracks.channel').song, 0)).not.toContain('port');
  });
});

describe('issue 10.8: bars that another meter cuts short', () => {
  const meter = (tick: number, numerator: number, exponent: number) =>
    metaEvent(tick, meta.timeSignature, Uint8Array.of(numerator, exponent, 24, 8));
  // 96 PPQ: a bar of 4/4 would be 384 ticks; the first is cut at 100 by 6/8.
  const song = songOf(
    [meter(0, 4, 2), meter(100, 6, 3), metaEvent(2000, meta.endOfTrack)],
    [...note(99, 20, 60), ...note(300, 20, 62)],
  );

  it('a lead-in is whole bars of the first meter (by hand: 384 ticks)', () => {
    const after = take(song, 'timing.lead-in', { bars: 1 }).song;
    expect(at(after, 1).filter((e) => e.includes(' 90 '))).toEqual([
      '483 90 60 80',
      '684 90 62 80',
    ]);
  });

  it('the bar line is on the grid: no note passes it (by hand: eighths lie at 48 and 96, and the bar line at 100 is nearer to 99)', () => {
    const after = take(song, 'notes.quantise', { grid: '1/8' }).song;
    expect(at(after, 1)[0]).toBe('100 90 60 80');
  });

  it('half way between two lines the earlier counts, whatever the sums (by hand: triplet eighths of 32 ticks, 16 lies between 0 and 32)', () => {
    const ties = songOf([
      ...note(16, 5, 60),
      ...note(48, 5, 61),
      ...note(80, 5, 62),
      ...note(384 + 112, 5, 63),
    ]);
    const ons = (settings: object) =>
      at(take(ties, 'notes.quantise', settings).song)
        .filter((e) => e.includes(' 90 '))
        .map((e) => e.split(' ')[0]);
    expect(ons({ grid: '1/8', feel: 'triplet' })).toEqual(['0', '32', '64', '480']);
    expect(ons({ grid: '1/8', feel: 'triplet', strength: 50 })).toEqual(['8', '40', '72', '488']);
  });
});

describe('issue 10: a channel of its own', () => {
  it('tells what other tracks set on the one that is left, where the part does not set it itself', () => {
    const setUp = [channelEvent(0, 0xc0, 40), controller(0, 7, 90), controller(0, 10, 20)];
    const song = songOf(
      [],
      setUp,
      [controller(0, 10, 64), ...note(0, 96, 60)],
      note(0, 96, 62, 80, 3),
    );
    const moved = take(song, 'tracks.channel', { channel: 5 }, { tracks: ['t3'] });
    expect(moved.report.changes[0]!.detail).toBe(
      'to channel 5; leaves behind program, volume of track 2',
    );
    expect(
      take(song, 'tracks.channel', { channel: 5 }, { tracks: ['t4'] }).report.changes[0]!.detail,
    ).toBe('to channel 5');
  });
});
