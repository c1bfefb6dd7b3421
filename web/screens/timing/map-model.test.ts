import { describe, expect, it } from 'vitest';
import { meterMap } from '#core/timing/meter-map.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { meta, metaEvent } from '#core/smf/events.ts';
import type { Song } from '#core/song/song.ts';
import { songOf, take } from '../../../tests/support/songs.ts';
import { temposOf, type Tempos } from '../../api/runs.ts';
import {
  addPoint,
  bpmAt,
  drawChange,
  handlesOf,
  moveHandle,
  removeHandle,
  snapped,
  type TempoEdit,
} from './map-model.ts';

/** 96 PPQ: a bar of 4/4 is 384 ticks. 120 BPM, then from bar 3 to bar 7 down to 80. */
const begun = songOf([
  metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
  metaEvent(384 * 20, meta.endOfTrack),
]);
const song = take(begun, 'timing.ramp', { bar: 3, toBar: 7, from: 120, to: 80 }).song;
const temposIn = (s: Song): Tempos => temposOf(timingOf(s).tempos, 96);
const after = (s: Song, edit: TempoEdit): Song => take(s, 'timing.tempos', edit).song;
const shown = (s: Song): string[] =>
  handlesOf(temposIn(s)).map((h) => `${h.kind} ${h.atTick} ${Math.round(h.bpm * 10) / 10}`);

describe('the tempo line by hand', () => {
  it('has a handle a tempo, and two a gradual change', () => {
    expect(shown(song)).toEqual(['point 0 120', 'from 768 120', 'to 2304 80']);
  });

  it('takes a gradual change by its end, and by its beginning', () => {
    const [, from, to] = handlesOf(temposIn(song));
    expect(shown(after(song, moveHandle(temposIn(song), to!, 384 * 10, 60)))).toEqual([
      'point 0 120',
      'from 768 120',
      'to 3840 60',
    ]);
    expect(shown(after(song, moveHandle(temposIn(song), to!, 384 * 4, 90)))).toEqual([
      'point 0 120',
      'from 768 120',
      'to 1536 90',
    ]);
    expect(shown(after(song, moveHandle(temposIn(song), from!, 384 * 3, 110)))).toEqual([
      'point 0 120',
      'from 1152 110',
      'to 2304 80',
    ]);
  });

  it('turns a change around whose end is drawn past its beginning, and never makes one without length', () => {
    const [, from, to] = handlesOf(temposIn(song));
    expect(shown(after(song, moveHandle(temposIn(song), from!, 384 * 9, 60))).slice(1)).toEqual([
      'from 2304 80',
      'to 3456 60',
    ]);
    expect(moveHandle(temposIn(song), to!, 768, 70).changes).toEqual([
      { fromTick: 768, toTick: 2304, from: 120, to: 70, shape: 'over beats' },
    ]);
  });

  it('leaves the neighbour of a gradual change as it was', () => {
    const two = after(song, drawChange({ tick: 2304, bpm: 80 }, { tick: 384 * 12, bpm: 140 }));
    expect(shown(two)).toEqual([
      'point 0 120',
      'from 768 120',
      'to 2304 80',
      'from 2304 80',
      'to 4608 140',
    ]);
    const moved = after(two, moveHandle(temposIn(two), handlesOf(temposIn(two))[2]!, 1920, 80));
    expect(shown(moved)).toEqual([
      'point 0 120',
      'from 768 120',
      'to 1920 80',
      'from 2304 80',
      'to 4608 140',
    ]);
    const later = after(two, moveHandle(temposIn(two), handlesOf(temposIn(two))[3]!, 2688, 80));
    expect(shown(later)).toEqual([
      'point 0 120',
      'from 768 120',
      'to 2304 80',
      'from 2688 80',
      'to 4608 140',
    ]);
  });

  it('moves, adds and takes out single tempos; the first stays at the beginning', () => {
    const added = after(song, addPoint(384 * 9, 100));
    expect(shown(added).at(-1)).toBe('point 3456 100');
    expect(
      shown(
        after(
          added,
          moveHandle(temposIn(added), handlesOf(temposIn(added)).at(-1)!, 384 * 10, 101.5),
        ),
      ).at(-1),
    ).toBe('point 3840 101.5');
    expect(
      shown(after(song, moveHandle(temposIn(song), handlesOf(temposIn(song))[0]!, 384, 90)))[0],
    ).toBe('point 0 90');
    expect(shown(after(song, removeHandle(temposIn(song), handlesOf(temposIn(song))[1]!)))).toEqual(
      ['point 0 120', 'point 768 120', 'point 2304 80'],
    );
  });

  it('a gradual change that began with the song and moves leaves its tempo there', () => {
    const whole = after(begun, drawChange({ tick: 0, bpm: 90 }, { tick: 384 * 8, bpm: 120 }));
    expect(
      shown(after(whole, moveHandle(temposIn(whole), handlesOf(temposIn(whole))[0]!, 384, 90))),
    ).toEqual(['point 0 90', 'from 384 90', 'to 3072 120']);
  });

  it('knows the tempo within a change (by hand: half way from 120 to 80 over beats is 100)', () => {
    expect(bpmAt(temposIn(song), 1536)).toBeCloseTo(100, 1);
    expect(bpmAt(temposIn(song), 5000)).toBeCloseTo(80, 2);
  });
});

it('places snap to beats, bars and sixteenths of their meter', () => {
  const meters = meterMap(
    [
      { atTick: 0, numerator: 4, denominator: 4 },
      { atTick: 384, numerator: 7, denominator: 8 },
    ],
    { kind: 'ppq', ticksPerQuarter: 96 },
  );
  expect([
    snapped(meters, 140, 'beat'),
    snapped(meters, 150, 'beat'),
    snapped(meters, 150, 'bar'),
    snapped(meters, 20, 'sixteenth'),
  ]).toEqual([96, 192, 0, 24]);
  expect([
    snapped(meters, 384 + 70, 'beat'),
    snapped(meters, 384 + 330, 'beat'),
    snapped(meters, -5, 'beat'),
  ]).toEqual([384 + 48, 384 + 336, 0]);
});
