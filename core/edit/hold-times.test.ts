import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { end } from '../../tests/support/bars-by-hand.ts';
import { exampleSources, exampleSteps } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { note, songOf, take } from '../../tests/support/songs.ts';
import { runStep } from '../operations/run.ts';
import { META, meta, metaEvent } from '../smf/events.ts';
import { sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { addressAt } from '../timing/start-timecode.ts';
import { tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';

/** 96 ticks a quarter; at 120 BPM 192 ticks a second, and a bar of 4/4 lasts 2 s (by hand). */
const song = songOf(
  [metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)), end(16)],
  [...note(0, 96, 60), ...note(384 * 5, 96, 62), end(16)],
);
const withCut = take(song, 'timing.marker', { bar: 6, text: 'Cut', anchor: 'time' }).song;
const cuts = (its: Song): number[] =>
  timingOf(its)
    .markers.filter((m) => m.text === 'Cut')
    .map((m) => m.atTick);
const map = (its: Song) => tempoMap(timingOf(its).tempos, its.division);
const address = (its: Song, tick: number): string =>
  addressAt(timingOf(its).timecode!, map(its), tick);

describe('a mark that belongs to time (bar 6 at 120 BPM: 10 s, tick 1920)', () => {
  it('stays at its second where bars come before it, and it is said', () => {
    const { song: after, report } = take(withCut, 'timing.lead-in', { bars: 2 });
    expect(cuts(after)).toEqual([1920]);
    expect(report.told).toEqual(['1 mark that belongs to time stays at its time.']);
    expect(after.tracks[1]!.events.atTick[0]).toBe(768);
  });

  it('stays where the tempo changes: at 240 BPM 10 s are tick 3840', () => {
    const { song: after, report } = take(withCut, 'timing.tempo', { bpm: 240 });
    expect(cuts(after)).toEqual([3840]);
    expect(report.told).toEqual(['1 mark that belongs to time stays at its time.']);
  });

  it('stays though its bar is cut, repeated or moved', () => {
    const bar = { bars: { from: 6, to: 6 } };
    for (const step of ['bars.cut', 'bars.repeat', 'bars.move'])
      expect([step, cuts(take(withCut, step, {}, bar).song)]).toEqual([step, [1920]]);
  });

  it('nothing is said where nothing moved, and one that belongs to bars moves with them', () => {
    expect(take(withCut, 'timing.resolution', { ppq: 192 }).report.told ?? []).toEqual([]);
    const inBars = take(song, 'timing.marker', { bar: 6, text: 'Cut' }).song;
    expect(cuts(take(inBars, 'timing.lead-in', { bars: 2 }).song)).toEqual([1920 + 768]);
  });

  it('is taken out by whoever takes it out', () => {
    const { song: after } = take(withCut, 'timing.marker', { bar: 6, text: '' });
    expect(cuts(after)).toEqual([]);
    expect(after.tracks[0]!.events.count).toBe(song.tracks[0]!.events.count);
  });

  it('leaves as any marker does: what it belongs to is kept here', () => {
    const own = ({ tracks }: Song): number[] =>
      [...tracks[0]!.events.data1].filter(
        (type, i) => tracks[0]!.events.status[i] === META && type === 0x7f,
      );
    expect([own(withCut).length, own(sentSong(withCut)).length]).toEqual([1, 0]);
    expect(cuts(sentSong(withCut))).toEqual([1920]);
  });
});

describe('a lead-in before a picture that begins at 01:00:00:00', () => {
  // 80 BPM: a bar of 4/4 lasts 3 s, 75 frames at 25.
  const slow = take(song, 'timing.tempo', { bpm: 80 }).song;
  const picture = take(slow, 'timing.timecode', { address: '01:00:00:00', rate: '25' }).song;
  const cut = take(picture, 'timing.marker', { bar: 6, text: 'Cut', anchor: 'time' }).song;

  it('of 3 s makes the start 00:59:57:00, and cuts and bars keep their addresses', () => {
    const { song: after, report } = take(cut, 'timing.lead-in', { bars: 1 });
    expect(address(after, 0)).toBe('00:59:57:00');
    expect(cuts(after)).toEqual([2304]);
    expect(address(after, 2304)).toBe(address(cut, 1920));
    expect(report.told).toEqual(['Each bar keeps its timecode: bar 1 begins at 00:59:57:00 now.']);
  });

  it('that is dropped again gives the start back', () => {
    const silent = take(cut, 'timing.lead-in', { bars: 2 }).song;
    const { song: after } = take(silent, 'timing.lead-in', { bars: -2 });
    expect(address(after, 0)).toBe('01:00:00:00');
    expect(cuts(after)).toEqual([1920]);
  });

  it('over midnight, and of no whole frames: the timecode is stated where the music begins', () => {
    const early = take(slow, 'timing.timecode', { address: '00:00:01:00', rate: '25' }).song;
    expect(address(take(early, 'timing.lead-in', { bars: 1 }).song, 0)).toBe('23:59:58:00');
    // At 90 BPM a bar lasts 2.6667 s, 66.67 frames.
    const odd = take(picture, 'timing.tempo', { bpm: 90 }).song;
    const { song: after } = take(odd, 'timing.lead-in', { bars: 1 });
    expect(address(after, 384)).toBe('01:00:00:00');
  });
});

it('however often tempos change, a mark is never further from its time than half a tick', () => {
  let now = take(withCut, 'timing.marker', {
    bar: 3,
    beat: 2,
    tick: 17,
    text: 'Cut',
    anchor: 'time',
  }).song;
  const seconds = (its: Song): number[] => cuts(its).map((t) => ticksToSeconds(map(its), t));
  const was = seconds(now);
  for (let n = 0; n < 40; n++) {
    now = take(now, 'timing.tempo', { bar: 1 + (n % 7), bpm: 61 + ((n * 37) % 150) }).song;
    const slowest = Math.max(...map(now).tempos) / 1e6 / 96;
    seconds(now).forEach((s, i) =>
      expect(Math.abs(s - was[i]!)).toBeLessThanOrEqual(slowest / 2 + 1e-9),
    );
  }
});

it('whatever a step does to time, marks that belong to it stay at theirs, but for those it takes out', () => {
  const moving = exampleSteps.filter(({ operation }) =>
    /^(timing|bars|recipe|tracks\.bring)/.test(operation),
  );
  fc.assert(
    fc.property(madeSong, fc.constantFrom(...moving), (made, step) => {
      if (made.division.kind === 'smpte') return;
      const held = take(made, 'timing.marker', {
        bar: 2,
        beat: 2,
        text: 'Held',
        anchor: 'time',
      }).song;
      const done = runStep(held, step, exampleSources);
      if (!done.ok) return;
      const at = (its: Song) =>
        timingOf(its)
          .markers.filter((m) => m.text === 'Held')
          .map((m) => ticksToSeconds(map(its), m.atTick));
      const [was] = at(held);
      const now = at(done.value.song);
      if (now.length === 0) {
        expect(done.value.report.changes.length).toBeGreaterThan(0);
        return;
      }
      const shifted = timingOf(held).timecode !== undefined || step.operation === 'timing.timecode';
      if (shifted) return;
      const halfTick =
        Math.max(...map(done.value.song).tempos, 5e5) / 1e6 / quarter(done.value.song) / 2;
      expect(now).toHaveLength(1);
      expect(Math.abs(now[0]! - was!)).toBeLessThanOrEqual(halfTick + 1e-9);
    }),
    { seed: 344, numRuns: scaleRuns(400) },
  );
});
const quarter = (its: Song): number =>
  its.division.kind === 'ppq' ? its.division.ticksPerQuarter : 1;
