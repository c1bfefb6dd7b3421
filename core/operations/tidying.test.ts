import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent, endTick, meta, metaEvent } from '../smf/events.ts';

const lines = (song: ReturnType<typeof songOf>, track = 0): string[] =>
  plainEvents(song.tracks[track]!.events);

describe('values nobody hears', () => {
  const song = songOf([
    controller(0, 11, 1),
    controller(10, 11, 2),
    controller(20, 11, 3),
    ...note(30, 10, 60),
    controller(35, 11, 4),
    controller(35, 11, 5),
    controller(60, 11, 6),
    ...note(70, 10, 60),
    controller(90, 11, 7),
    controller(95, 11, 127),
  ]);

  it('go; what is in force when a note begins, and what brings the lane to rest at the end, stays', () => {
    expect(lines(take(song, 'controllers.tidy').song).filter((e) => e.includes('b00b'))).toEqual([
      '20 b00b03',
      '35 b00b05',
      '60 b00b06',
      '95 b00b7f',
    ]);
    expect(
      take(song, 'controllers.tidy', { silent: false, after: false }).report.changes[0]!.counts,
    ).toEqual({ controller: 1 });
  });

  it('of another channel than the notes are left: nothing says when they are heard', () => {
    expect(
      take(
        songOf([...note(0, 10, 60), controller(5, 11, 1, 3), controller(50, 11, 2, 3)]),
        'controllers.tidy',
      ).report.changes,
    ).toEqual([]);
  });
});

it('the bend range is stated as registered parameter 0 with none left chosen (MIDI 1.0, RPN)', () => {
  const song = songOf([channelEvent(5, 0xe2, 0, 70), ...note(0, 10, 60)]);
  const { song: after } = take(song, 'controllers.bend-range', { semitones: 12 });
  expect(lines(after).slice(0, 6)).toEqual([
    '0 b26500',
    '0 b26400',
    '0 b2060c',
    '0 b22600',
    '0 b2657f',
    '0 b2647f',
  ]);
  expect(take(after, 'controllers.bend-range').report.skipped[0]!.why).toBe(
    'It states its bend range already.',
  );
});

it('nudged notes move together, and not before the beginning', () => {
  expect(
    lines(
      take(songOf([...note(5, 10, 60), ...note(50, 10, 62)]), 'notes.nudge', { ticks: -7 }).song,
    ),
  ).toEqual(['0 903c50', '10 803c40', '43 903e50', '53 803e40', '60 ff2f']);
});

describe('the length of the song', () => {
  it('is set on every track by bar, without notes; what lies behind keeps its end', () => {
    const song = songOf(
      [metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8))],
      note(0, 96, 60),
      note(2000, 96, 60),
    );
    const { song: after, report } = take(song, 'timing.length', { bars: 4 });
    // A bar of 3/4 at 96 PPQ is 288 ticks.
    expect(after.tracks.map((t) => endTick(t.events))).toEqual([1152, 1152, 2096]);
    expect(report.skipped.map((s) => s.why)).toEqual([
      'Its last event lies behind that bar, and it ends there.',
    ]);
  });
});

describe('bar lines', () => {
  it('markers a little off go to the nearest; others stay', () => {
    const song = songOf([
      metaEvent(380, meta.marker, Uint8Array.of(65)),
      metaEvent(390, meta.cuePoint, Uint8Array.of(66)),
      metaEvent(480, meta.marker, Uint8Array.of(67)),
    ]);
    expect(lines(take(song, 'timing.snap').song)).toEqual([
      '384 ff06 41',
      '384 ff07 42',
      '480 ff06 43',
      '480 ff2f',
    ]);
  });

  it('meters go to bar lines of the meters before them', () => {
    const song = songOf([
      metaEvent(390, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
      metaEvent(390 + 288, meta.timeSignature, Uint8Array.of(4, 2, 24, 8)),
    ]);
    expect(
      take(song, 'timing.snap', { meters: true }).song.tracks[0]!.events.atTick.slice(0, 2),
    ).toEqual(Float64Array.of(384, 672));
    // A mark on the line that moves goes along with it, also without markers asked for; one between lines stays.
    const marked = songOf([
      metaEvent(387, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
      metaEvent(387, meta.marker, Uint8Array.of(65)),
      metaEvent(387 + 288, meta.cuePoint, Uint8Array.of(66)),
      metaEvent(500, meta.marker, Uint8Array.of(67)),
    ]);
    const snapped = take(marked, 'timing.snap', { meters: true, markers: false }).song.tracks[0]!
      .events;
    expect([...snapped.atTick].slice(0, 4)).toEqual([384, 384, 500, 672]);
  });
});
