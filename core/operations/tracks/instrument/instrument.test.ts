import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { metByNotes } from '../../../../tests/support/instrument-state.ts';
import { controller, note, songOf, take } from '../../../../tests/support/songs.ts';
import { readIndependently } from '../../../../tests/support/independent.ts';
import { sentSong } from '../../../song/lanes.ts';
import { writeSmf } from '../../../smf/write.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import { trackName, type Song } from '../../../song/song.ts';
import { lookOver } from '../../../looking/look-over.ts';
import { runStep } from '../../run.ts';

const name = (says: string): EventValue => metaEvent(0, meta.trackName, encodeText(says));
const program = (tick: number, number: number, channel = 0): EventValue =>
  channelEvent(tick, 0xc0 | channel, number);
/**
 * Channel messages of a track as an independent reader (npm midi-file) finds them in the file that is sent:
 * tick, status and data.
 */
const sent = (song: Song, track: number): string[] =>
  readIndependently(writeSmf({ ...sentSong(song), format: 1 })).tracks[track]!.filter(
    (line) => !/^\d+ ff/.test(line),
  );

describe('giving a part its instrument', () => {
  const horn = songOf(
    [name('Map')],
    [
      name('Horn'),
      controller(0, 0, 1),
      program(0, 60),
      ...note(0, 90, 60),
      program(96, 61),
      ...note(96, 90, 62),
      controller(192, 71, 100),
    ],
  );

  it('says bank and program before everything else, and none of those it had (hand-worked)', () => {
    const { song, report, described } = take(
      horn,
      'tracks.instrument',
      { program: 74, bank: 129 },
      { tracks: ['t2'] },
    );
    expect(sent(song, 1).slice(0, 5)).toEqual([
      '0 b00001',
      '0 b02001',
      '0 c049',
      '0 903c50',
      '90 803c40',
    ]);
    expect(sent(song, 1).filter((l) => / c/.test(l))).toHaveLength(1);
    expect(described).toBe('Gave Horn Flute');
    expect(report.changes[0]!.detail).toContain('3 program or bank messages taken out');
    expect(report.changes[0]!.detail).toContain('resonance');
  });

  it('parks what was written for the sound before where that is wished; nothing is lost', () => {
    const { song } = take(
      horn,
      'tracks.instrument',
      { program: 74, settle: true },
      { tracks: ['t2'] },
    );
    expect(song.tracks[1]!.parked).toEqual(['0:71']);
    expect(sent(song, 1).some((l) => l.includes('b047'))).toBe(false);
  });

  it('moves the part by octaves into its range where that is wished: all of it, or nothing', () => {
    // Flute from G3 of the alto flute (55): 36 and 40 come in two octaves up; 100 would leave it there.
    const low = songOf([name('Map')], [program(0, 60), ...note(0, 90, 36), ...note(96, 90, 40)]);
    const asked = { program: 74, octaves: true };
    const { song, report } = take(low, 'tracks.instrument', asked, { tracks: ['t2'] });
    expect(sent(song, 1)).toEqual(['0 c049', '0 903c50', '90 803c40', '96 904050', '186 804040']);
    expect(report.changes[0]!.detail).toContain('2 octaves up, into its range');
    const fits = take(song, 'tracks.instrument', asked, { tracks: ['t2'] });
    expect(fits.song).toBe(song);
    // It plays that already, and goes up none the less.
    const plain = take(low, 'tracks.instrument', { program: 74 }, { tracks: ['t2'] }).song;
    expect(sent(take(plain, 'tracks.instrument', asked, { tracks: ['t2'] }).song, 1)).toEqual(
      sent(song, 1),
    );
    const wide = songOf([name('Map')], [program(0, 60), ...note(0, 90, 0), ...note(96, 90, 127)]);
    expect(
      sent(take(wide, 'tracks.instrument', asked, { tracks: ['t2'] }).song, 1).slice(1, 2),
    ).toEqual(['0 900050']);
  });

  it.each([
    [{ program: 74, settle: true, octaves: true }],
    [{ program: 1, settle: true }],
    [
      {
        definition: { name: 'Pipe', program: 74, playable: { lowest: 40, highest: 90 } },
        settle: true,
      },
    ],
  ])('leaves no finding that it was written for another (%j)', (settings) => {
    const written = songOf(
      [name('Map')],
      [
        name('Horn'),
        program(0, 60),
        ...[0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) => note(n * 96, 80, 48 + n, 60 + n)),
        program(300, 61),
        controller(0, 71, 100),
        controller(0, 91, 90),
        controller(500, 74, 20),
      ],
    );
    const rules = (song: Song): string[] => lookOver(song).map((f) => f.rule);
    expect(rules(written)).toEqual(
      expect.arrayContaining(['programs-inside', 'foreign-controllers']),
    );
    const after = take(written, 'tracks.instrument', settings, { tracks: ['t2'] }).song;
    expect(rules(after)).not.toEqual(
      expect.arrayContaining([
        expect.stringMatching(/programs-inside|foreign|out-of-range|bank-alone|too-many/),
      ]),
    );
  });

  it('says that it plays that already, and changes nothing', () => {
    const once = take(horn, 'tracks.instrument', { program: 74 }, { tracks: ['t2'] }).song;
    const again = take(once, 'tracks.instrument', { program: 74 }, { tracks: ['t2'] });
    expect(again.song).toBe(once);
    expect(again.report.skipped.map((s) => s.why)).toEqual(['It plays that already.']);
  });

  it('of some bars says the one before again behind them', () => {
    const song = songOf(
      [name('Map')],
      [program(0, 60), ...note(0, 90, 60), ...note(400, 90, 60), ...note(800, 90, 60)],
    );
    const inside = take(
      song,
      'tracks.instrument',
      { program: 12 },
      { tracks: ['t2'], bars: { from: 2, to: 2 } },
    ).song;
    expect(sent(inside, 1).filter((l) => / c/.test(l))).toEqual(['0 c03c', '384 c00b', '768 c03c']);
  });

  it('is said behind a reset that comes before the first note', () => {
    const reset = { ...channelEvent(10, 0xf0, 0), payload: Uint8Array.of(0x7e, 0x7f, 9, 1, 0xf7) };
    const song = songOf([name('Map'), reset], note(96, 90, 60));
    const { tracks } = take(song, 'tracks.instrument', { program: 12 }, { tracks: ['t2'] }).song;
    expect([...tracks[1]!.events.atTick].slice(0, 2)).toEqual([10, 96]);
  });

  it('a part that shares its channel gets one of its own, and those that stay sound as before', () => {
    // The strings say the program that the oboe plays with, too; the oboe says the volume of both.
    const song = songOf(
      [name('Map')],
      [name('Strings'), program(0, 48), ...note(0, 90, 60)],
      [name('Oboe'), controller(0, 7, 50), ...note(96, 90, 72)],
    );
    const { song: after, report } = take(
      song,
      'tracks.instrument',
      { program: 69 },
      { tracks: ['t2'] },
    );
    expect(sent(after, 1)).toEqual(['0 c144', '0 913c50', '0 b10732', '90 813c40']);
    expect(sent(after, 2)).toEqual(['0 c030', '0 b00732', '96 904850', '186 804840']);
    expect(report.changes.find((c) => c.track === 't3')!.detail).toContain(
      'so that it sounds as before',
    );
  });

  it('drums go to channel 10 and say nothing there that others would hear', () => {
    const song = songOf(
      [name('Map')],
      [program(0, 8, 9), controller(0, 7, 90, 9), ...note(0, 90, 36, 80, 9)],
      [name('Shaker'), program(0, 115), controller(0, 7, 30), ...note(96, 90, 70)],
    );
    const { song: after } = take(song, 'tracks.instrument', { drums: true }, { tracks: ['t3'] });
    expect(sent(after, 2)).toEqual(['96 994650', '186 894640']);
    expect(after.tracks[2]!.parked).toEqual(['9:7', '9:program']);
  });

  it('beside a part stands a copy of its own that plays it, too', () => {
    const { song, report, described } = take(
      horn,
      'tracks.instrument',
      { program: 49, beside: true },
      { tracks: ['t2'] },
    );
    expect(song.tracks).toHaveLength(3);
    expect(song.tracks[1]).toBe(horn.tracks[1]);
    expect(sent(song, 2)[0]).toBe('0 c130');
    expect(report.changes.map((c) => c.did)).toEqual(['added']);
    expect(described).toBe('Put String Ensemble 1 beside, as Horn · String Ensemble 1');
  });

  it('says where it cannot: parts of several channels, no free channel', () => {
    const two = songOf([name('Map')], [...note(0, 90, 60), ...note(0, 90, 60, 80, 1)]);
    const why = (song: Song, settings: object) =>
      take(song, 'tracks.instrument', settings, { tracks: ['t2'] }).report.skipped[0]?.why;
    expect(why(two, {})).toMatch(/^It plays on channels 1, 2/);
    expect(take(two, 'tracks.instrument', { program: 9, channel: 2 }).report.changes).toHaveLength(
      1,
    );
    const full = songOf(
      [name('Map')],
      note(0, 90, 60),
      ...Array.from({ length: 16 }, (_, c) => note(0, 90, 60, 80, c)),
    );
    expect(why(full, {})).toMatch(/^No channel is free/);
  });
});

describe('giving each its own', () => {
  const three = songOf([name('Map')], note(0, 90, 60), note(0, 90, 40), [
    name('Kit'),
    ...note(0, 90, 36),
  ]);

  it('parts that shared a channel part; those without a name are named after it; others stay the very same', () => {
    const each = [
      { track: 't2', program: 74 },
      { track: 't3', program: 34 },
    ];
    const { song, described } = take(three, 'tracks.instrument', { each, named: true });
    expect(sent(song, 1)[0]).toBe('0 c149');
    expect(sent(song, 2)[0]).toBe('0 c221');
    expect(song.tracks.map((t) => trackName(t, 'UTF-8'))).toEqual([
      'Map',
      'Flute',
      'Electric Bass (finger)',
      'Kit',
    ]);
    expect(song.tracks[3]).toBe(three.tracks[3]);
    expect(described).toBe('Gave 2 tracks what plays them');
  });

  it('refuses tracks that are not there', () => {
    const done = runStep(three, {
      operation: 'tracks.instrument',
      settings: { each: [{ track: 't9', program: 1 }] },
    });
    expect(done.ok ? 'done' : done.problem.code).toBe('track-unknown');
  });
});

/** Tracks that share two channels, with programs, banks, controllers and pedals that one says and another hears. */
const message = fc
  .record({
    tick: fc.integer({ min: 0, max: 12 }).map((n) => n * 32),
    channel: fc.constantFrom(0, 0, 1, 9),
    kind: fc.constantFrom('note', 'note', 'note', 'control', 'control', 'program', 'bend'),
    number: fc.constantFrom(0, 32, 1, 7, 11, 64, 6, 38, 98, 99, 100, 101, 121, 71, 91),
    value: fc.constantFrom(0, 1, 2, 64, 127),
  })
  .map(({ tick, channel, kind, number, value }): EventValue[] =>
    kind === 'note'
      ? note(tick, 40, 60 + (value >> 1), 80, channel)
      : kind === 'control'
        ? [controller(tick, number, value, channel)]
        : kind === 'program'
          ? [program(tick, value, channel)]
          : [channelEvent(tick, 0xe0 | channel, 0, value)],
  );
const sharedSong = fc
  .array(fc.array(message, { maxLength: 14 }), { minLength: 2, maxLength: 4 })
  .map((tracks) => songOf([name('Map')], ...tracks.map((t) => t.flat())));

describe('the law of the sound of others', () => {
  it.each([
    ['a program', { program: 74 }],
    ['a program and its bank, parked what was set', { program: 3, bank: 300, settle: true }],
    ['drums', { drums: true }],
    ['beside it', { program: 49, beside: true }],
    ['of one of its channels', { program: 74, channel: 1 }],
  ])('%s: every note of other tracks meets what it met, as it begins and ends', (_, settings) => {
    fc.assert(
      fc.property(sharedSong, fc.integer({ min: 2, max: 4 }), (song, n) => {
        const track = `t${Math.min(n, song.tracks.length)}`;
        const others = new Set(song.tracks.map((t) => t.id).filter((id) => id !== track));
        const done = runStep(song, {
          operation: 'tracks.instrument',
          settings,
          scope: { tracks: [track] },
        });
        if (!done.ok) throw new Error(done.problem.code);
        expect(metByNotes(sentSong(done.value.song), others)).toEqual(metByNotes(song, others));
      }),
      { numRuns: scaleRuns(400) },
    );
  });

  it('each its own: the same of those that are not named', () => {
    const each = [
      { track: 't2', program: 34 },
      { track: 't3', program: 1, drums: true },
    ];
    fc.assert(
      fc.property(sharedSong, (song) => {
        const others = new Set(
          song.tracks.map((t) => t.id).filter((id) => id !== 't2' && id !== 't3'),
        );
        const done = runStep(song, { operation: 'tracks.instrument', settings: { each } });
        if (!done.ok) throw new Error(done.problem.code);
        expect(metByNotes(sentSong(done.value.song), others)).toEqual(metByNotes(song, others));
      }),
      { numRuns: scaleRuns(400) },
    );
  });
});
