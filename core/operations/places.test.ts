import { describe, expect, it } from 'vitest';
import { note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { meta, metaEvent } from '../smf/events.ts';
import type { Song } from '../song/song.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';

const all = (song: Song, ...steps: [string, object][]): Song =>
  steps.reduce((s, [operation, settings]) => take(s, operation, settings).song, song);
const lines = (song: Song, track = 0): string[] => plainEvents(song.tracks[track]!.events);

describe('the lead-in, marked and counted', () => {
  const song = songOf([metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))], note(768, 96, 60));

  it('bars that are there are named and nothing moves; dropped, their section goes with them', () => {
    const { song: marked } = take(song, 'timing.lead-in', { bars: 2, mark: 'and add none' });
    expect(lines(marked, 1)).toEqual(lines(song, 1));
    expect(timingOf(marked).sections.map((s) => [s.name, s.fromTick, s.toTick])).toEqual([
      ['Lead-in', 0, 768],
    ]);
    const { song: dropped } = take(marked, 'timing.lead-in', { bars: -2 });
    expect(timingOf(dropped).sections).toEqual([]);
    expect(timingOf(dropped).markers).toEqual([]);
    expect(lines(dropped, 1)[0]).toBe('0 903c50');
  });

  it('bars are added and named', () => {
    const { song: led } = take(song, 'timing.lead-in', { bars: 1, mark: 'as a section' });
    expect(lines(led, 1)[0]).toBe('1152 903c50');
    expect(timingOf(led).sections).toHaveLength(1);
  });

  it('a count-in puts bars before the music and clicks them alone', () => {
    const { song: counted } = take(song, 'timing.click', {
      countIn: 1,
      until: 'the end of the count-in',
    });
    expect(lines(counted, 1)[0]).toBe('1152 903c50');
    expect(
      lines(counted, 2)
        .filter((e) => e.includes(' 99'))
        .map((e) => e.split(' ')[0]),
    ).toEqual(['0', '96', '192', '288']);
    expect(take(song, 'timing.click', { until: 'the end of the count-in' }).report.changes).toEqual(
      [],
    );
  });
});

it('what cannot be is refused in plain words', () => {
  const song = songOf(note(0, 96, 60));
  expect(refusal(song, 'timing.meter', { numerator: 0 })).toBe('settings-invalid');
  expect(refusal(song, 'timing.meter', { numerator: 5, denominator: '3' })).toBe(
    'settings-invalid',
  );
  expect(refusal(song, 'timing.tempo', { bpm: 3 })).toBe('settings-invalid');
  expect(refusal(song, 'timing.tempo', { bar: 0 })).toBe('settings-invalid');
  expect(refusal(song, 'timing.tempo', { bar: 1, beat: 9 })).toBe('settings-invalid');
  expect(refusal(song, 'timing.ramp', { bar: 5, toBar: 5 })).toBe('settings-invalid');
  expect(
    refusal(
      { ...song, division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 } },
      'timing.resolution',
    ),
  ).toBe('settings-invalid');
});

describe('a list of places', () => {
  const bpm = (song: Song): [number, number][] =>
    timingOf(song).tempos.map((t) => [t.atTick, Math.round(6e7 / t.tempo)]);
  const song = all(
    songOf(note(0, 96, 60), note(768, 96, 62)),
    ['timing.tempo', { bpm: 100 }],
    ['timing.tempo', { bar: 2, bpm: 80 }],
    ['timing.marker', { bar: 2, text: 'Old' }],
    ['timing.section', { name: 'A', lastBar: 1 }],
  );
  const list = {
    tempos: [
      { atTick: 0, bpm: 120 },
      { atTick: 768, bpm: 60 },
    ],
    marks: [{ atTick: 768, text: 'New' }],
  };

  it('is added to what is there; what stands at its places is replaced', () => {
    const { song: after, described } = take(song, 'timing.places', list);
    expect(bpm(after)).toEqual([
      [0, 120],
      [384, 80],
      [768, 60],
    ]);
    expect(timingOf(after).markers.map((m) => m.text)).toEqual(['Old', 'New']);
    expect(described).toBe('Brought in 1 marker, 2 tempos from a list');
  });

  it('comes in place of what is there, of the kinds that it has', () => {
    const { song: after, described } = take(song, 'timing.places', { ...list, instead: true });
    expect(bpm(after)).toEqual([
      [0, 120],
      [768, 60],
    ]);
    expect(timingOf(after).markers.map((m) => m.text)).toEqual(['New']);
    expect(timingOf(after).sections.map((s) => s.name)).toEqual(['A']);
    expect(described).toBe('Brought in 1 marker, 2 tempos from a list, in place of what was there');
  });

  it('moves the music to where it sounded, where that is asked (by hand: 2.4 + 3 s at 120 BPM are 1036.8 ticks, the rest at 60)', () => {
    const { song: after, report } = take(song, 'timing.places', {
      ...list,
      instead: true,
      music: 'keeps its seconds',
    });
    const [old, now] = [song, after].map((s) => tempoMap(timingOf(s).tempos, s.division));
    // Tick 768 was at 2.4 + 3 = 5.4 s; now tick 768 is at 4 s and each quarter behind it lasts a second:
    // 768 + 1.4 · 96.
    expect(ticksToSeconds(old!, 768)).toBeCloseTo(5.4, 9);
    expect(lines(after, 1)[0]).toBe(`${Math.round(768 + 1.4 * 96)} 903e50`);
    expect(Math.abs(ticksToSeconds(now!, 902) - 5.4)).toBeLessThan(0.006);
    expect(report.changes[0]!.detail).toMatch(/events moved to stay where they sound/);
  });
});

it('a key and a meter that stand inside a bar are changed and taken out where they are', () => {
  const song = all(songOf([metaEvent(384 * 4, meta.endOfTrack)]), [
    'timing.key',
    { bar: 2, beat: 3, tick: 5, sharps: 2 },
  ]);
  expect(timingOf(song).keys).toEqual([{ atTick: 384 + 2 * 96 + 5, sharps: 2, minor: false }]);
  expect(
    timingOf(all(song, ['timing.key', { bar: 2, beat: 3, tick: 5, remove: true }])).keys,
  ).toEqual([]);
  const cut = all(song, ['timing.meter', { bar: 2, beat: 2, tick: 7, numerator: 3 }]);
  expect(timingOf(cut).meters).toEqual([{ atTick: 384 + 96 + 7, numerator: 3, denominator: 4 }]);
  expect(
    timingOf(all(cut, ['timing.meter', { bar: 3, numerator: 3, remove: true }])).meters,
  ).toEqual([]);
});

it('a list leaves marks that stand as it says in their tracks', () => {
  const song = all(songOf([metaEvent(384, meta.endOfTrack)], note(0, 96, 60)), [
    'timing.tempo',
    { bpm: 100 },
  ]);
  const own = take(
    song,
    'timing.marker',
    { bar: 1, beat: 2, text: 'Breathe' },
    { tracks: ['t2'] },
  ).song;
  for (const instead of [false, true]) {
    const marks = [{ atTick: 96, text: 'Breathe' }];
    expect(take(own, 'timing.places', { marks, instead }).report.changes).toEqual([]);
    const more = take(own, 'timing.places', {
      marks: [...marks, { atTick: 192, text: 'Go' }],
      instead,
    }).song;
    expect(timingOf(more).markers.map((m) => [m.text, m.track])).toEqual([
      ['Breathe', 't2'],
      ['Go', 't1'],
    ]);
  }
});

it('a gradual change ends at a beat (by hand: beat 3 of bar 2 is tick 576)', () => {
  const song = take(songOf([metaEvent(384 * 4, meta.endOfTrack)]), 'timing.ramp', {
    bar: 1,
    beat: 2,
    toBar: 2,
    toBeat: 3,
    from: 120,
    to: 60,
  }).song;
  expect([timingOf(song).tempos[0]!.atTick, timingOf(song).tempos.at(-1)]).toEqual([
    96,
    { atTick: 576, tempo: 1_000_000 },
  ]);
  expect(refusal(song, 'timing.ramp', { bar: 2, beat: 3, toBar: 2, toBeat: 3 })).toBe(
    'settings-invalid',
  );
  expect(refusal(song, 'timing.ramp', { toBar: 2, toBeat: 9 })).toBe('settings-invalid');
});

it('a click track clicks dotted quarters in 6/8 where that is asked (96 a quarter, by hand: every 144 ticks)', () => {
  const song = all(songOf([metaEvent(576, meta.endOfTrack)]), [
    'timing.meter',
    { numerator: 6, denominator: '8', music: 'keeps its beats' },
  ]);
  const ons = (settings: object): string[] =>
    lines(take(song, 'timing.click', settings).song, 1)
      .filter((e) => e.includes(' 99'))
      .map((e) => e.split(' ')[0]!);
  expect(ons({ byThrees: 'every dotted quarter' })).toEqual(['0', '144', '288', '432']);
  expect(ons({})).toHaveLength(12);
});
