import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { controller, note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { readSmf } from '../smf/read.ts';
import { writeTrack } from '../smf/write.ts';
import { channelEvent, endTick, type Events } from '../smf/events.ts';
import { lanesOf, sentEvents } from '../song/lanes.ts';
import { curveAt, curvePoints, curves } from './controllers/draw/curve.ts';
import { smoothed } from './controllers/smooth/operation.ts';
import { thinned } from '../edit/thin.ts';

const valuesOf = (events: Events, what: number | 'bend' | 'pressure'): number[] => [
  ...(lanesOf(events).find((l) => l.what === what)?.values ?? []),
];
const small = fc.array(fc.integer({ min: 0, max: 6 }), { minLength: 1, maxLength: 9 });

describe('thinning', () => {
  /** Fewest held values by trying every choice of places: what a greedy pass has to be held against. */
  function fewest(given: readonly number[], error: number): number {
    let best = Infinity;
    for (let mask = 1; mask < 1 << given.length; mask += 2) {
      const starts = given.flatMap((_, i) => (mask & (1 << i) ? [i] : []));
      const fits = starts.every((from, s) => {
        const part = given.slice(from, starts[s + 1] ?? given.length);
        const fixed = [
          ...(s === 0 ? [given[0]!] : []),
          ...(s === starts.length - 1 ? [given.at(-1)!] : []),
        ];
        const choices = fixed.length > 0 ? fixed : [0, 1, 2, 3, 4, 5, 6];
        return choices.some(
          (v) => fixed.every((f) => f === v) && part.every((p) => Math.abs(p - v) <= error),
        );
      });
      if (fits) best = Math.min(best, starts.length);
    }
    return best;
  }

  it('keeps within the error, says first and last exactly, and no choice has fewer values (all choices tried)', () => {
    fc.assert(
      fc.property(small, fc.integer({ min: 0, max: 3 }), (given, error) => {
        const { keep, values } = thinned(given, error);
        let said = NaN;
        given.forEach((v, i) => {
          if (keep[i]) said = values[i]!;
          expect(Math.abs(v - said)).toBeLessThanOrEqual(error);
        });
        expect(values[0]).toBe(given[0]);
        expect(said).toBe(given.at(-1));
        expect(keep.filter(Boolean)).toHaveLength(fewest(given, error));
      }),
      { seed: 41, numRuns: scaleRuns(1500) },
    );
  });

  it('takes a long lane in one go', () => {
    const { keep } = thinned(
      Array.from({ length: 300_000 }, (_, i) => Math.round(64 + 60 * Math.sin(i / 500))),
      2,
    );
    expect(keep.filter(Boolean).length).toBeLessThan(300_000 / 20);
  });
});

describe('parking', () => {
  const anyLanes = { lanes: [1, 7, 10, 11, 64, 91, 'bend', 'pressure', 'program'] };

  it('and unparking restores every byte; the tempo, notes and metas are never parked', () => {
    fc.assert(
      fc.property(trackEvents, (events) => {
        const before = songOf(events);
        const parked = take(before, 'controllers.park', anyLanes).song;
        expect(
          plainEvents(sentEvents(parked.tracks[0]!)).filter((e) => /^\d+ ([89a]|ff|f0|f7)/.test(e)),
        ).toEqual(plainEvents(events).filter((e) => /^\d+ ([89a]|ff|f0|f7)/.test(e)));
        const back = take(parked, 'controllers.unpark').song;
        expect(writeTrack(back.tracks[0]!.events)).toEqual(writeTrack(events));
        expect(back.tracks[0]!.parked).toBeUndefined();
      }),
      { seed: 42, numRuns: scaleRuns(200) },
    );
  });

  const song = songOf([
    controller(0, 7, 20),
    ...note(0, 96, 60),
    controller(50, 7, 0),
    controller(50, 11, 90),
    controller(60, 7, 30, 3),
  ]);
  const parked = take(song, 'controllers.park', { lanes: [7] });

  it('keeps the events in the song, and out of the file, which says so', () => {
    expect(parked.report.changes[0]!.counts).toEqual({ 'parked event': 3 });
    expect(parked.song.tracks[0]!.events).toBe(song.tracks[0]!.events);
    const made = makeHandoff(
      parked.song,
      { received: song, asRead: song },
      { format: 1, runningStatus: true, chunks: true },
    );
    if (!made.ok) throw new Error(made.problem.code);
    const back = readSmf(made.value.bytes);
    expect(back.ok && plainEvents(back.value.smf.tracks[0]!.events)).toEqual([
      '0 903c50',
      '50 b00b5a',
      '96 803c40',
      '96 ff2f',
    ]);
    expect(made.value.notes).toEqual(['Parked in track 1 and not sent: volume.']);
    expect(made.value.proof.holds).toBe(true);
  });

  it('sets lanes aside from what other steps change', () => {
    for (const [operation, settings] of [
      ['controllers.thin', { error: 32 }],
      ['controllers.adjust', { lanes: [7], add: 5 }],
      ['events.remove', { controllers: [7] }],
      ['controllers.reset', { lanes: [7] }],
    ] as const) {
      const result = take(parked.song, operation, settings);
      expect(valuesOf(result.song.tracks[0]!.events, 7).slice(0, 2), operation).toEqual([20, 0]);
    }
    const stripped = take(parked.song, 'events.keep-notes').song;
    expect(plainEvents(take(stripped, 'controllers.unpark').song.tracks[0]!.events)).toEqual([
      '0 b00714',
      '0 903c50',
      '50 b00700',
      '60 b3071e',
      '96 803c40',
      '96 ff2f',
    ]);
  });

  it('of a lane that is not there changes nothing and says so; of none named is refused', () => {
    expect(take(song, 'controllers.park', { lanes: [74] }).report).toEqual({
      changes: [],
      skipped: [
        { track: 't1', name: 'track 1', why: 'It has no such lane that is not parked already.' },
      ],
    });
    expect(take(song, 'controllers.unpark').report.skipped[0]!.why).toBe(
      'It has no such parked lane.',
    );
    expect(refusal(song, 'controllers.park', { lanes: [] })).toBe('settings-invalid');
  });
});

describe('adjusting', () => {
  const events = songOf([
    controller(0, 11, 10),
    controller(10, 11, 60),
    controller(20, 11, 120),
    channelEvent(0, 0xe0, 0, 64),
    channelEvent(30, 0xe0, 0, 96),
    controller(40, 64, 127),
  ]);
  const adjusted = (settings: object) =>
    take(events, 'controllers.adjust', settings).song.tracks[0]!.events;

  it.each([
    [{ lanes: [11], scale: 50 }, [5, 30, 60]],
    [{ lanes: [11], scale: 50, centre: 60 }, [35, 60, 90]],
    [{ lanes: [11], add: 20 }, [30, 80, 127]],
    [{ lanes: [11], lowest: 40, highest: 100 }, [40, 60, 100]],
  ])('%j gives %j (worked by hand)', (settings, expected) => {
    expect(valuesOf(adjusted(settings), 11)).toEqual(expected);
  });

  it('scales bend about its centre: half of a full step up of 4096 is 2048; pedals stay', () => {
    const all = adjusted({ scale: 50 });
    expect(valuesOf(all, 'bend')).toEqual([8192, 8192 + 2048]);
    expect(valuesOf(all, 64)).toEqual([127]);
  });
});

describe('smoothing', () => {
  it('is the mean of the held line around each value (worked by hand)', () => {
    // Values 0 until tick 10, 100 from there; around tick 10 a window of 8 ticks holds 4 of each.
    expect(smoothed([0, 100, 100], [0, 10, 20], 8)).toEqual([0, 50, 100]);
    expect(smoothed([0, 90], [0, 1], 3)).toEqual([15, 45]);
    expect(smoothed([7], [0], 8)).toEqual([7]);
  });

  it('stays between the lowest and the highest value', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 1, max: 50 })), {
          minLength: 1,
          maxLength: 40,
        }),
        fc.integer({ min: 1, max: 300 }),
        (steps, width) => {
          const values = steps.map(([v]) => v);
          const ticks = steps.map(
            (
              (sum) =>
              ([, d]) =>
                (sum += d)
            )(0),
          );
          for (const v of smoothed(values, ticks, width)) {
            expect(v).toBeGreaterThanOrEqual(Math.min(...values) - 1e-9);
            expect(v).toBeLessThanOrEqual(Math.max(...values) + 1e-9);
          }
        },
      ),
      { seed: 43 },
    );
  });
});

describe('drawing a curve', () => {
  it('says every value on the way and nothing twice', () => {
    expect(curvePoints({ from: 0, to: 40 }, 10, 14, 'straight', 0)).toEqual([
      { atTick: 0, value: 10 },
      { atTick: 5, value: 11 },
      { atTick: 15, value: 12 },
      { atTick: 25, value: 13 },
      { atTick: 35, value: 14 },
    ]);
    expect(curvePoints({ from: 0, to: 40 }, 10, 10, 'ease in', 0)).toEqual([
      { atTick: 0, value: 10 },
    ]);
  });

  it('stays within its error at every tick, with ends said exactly', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...curves),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 1, max: 2000 }),
        fc.integer({ min: 0, max: 6 }),
        (curve, a, b, length, error) => {
          const points = curvePoints({ from: 100, to: 100 + length }, a, b, curve, error);
          expect([points[0]!.value, points.at(-1)!.value]).toEqual([a, b]);
          for (let tick = 100, n = 0; tick < 100 + length; tick++) {
            while (points[n + 1] && points[n + 1]!.atTick <= tick) n++;
            expect(
              Math.abs(points[n]!.value - (a + (b - a) * curveAt(curve, (tick - 100) / length))),
            ).toBeLessThanOrEqual(error + 0.5 + 1e-9);
          }
        },
      ),
      { seed: 44, numRuns: scaleRuns(300) },
    );
  });

  it('replaces what the lane said in the bars of the scope and nothing else', () => {
    const song = songOf([
      controller(0, 11, 1),
      controller(400, 11, 2),
      controller(400, 7, 3),
      controller(900, 11, 4),
      ...note(0, 1152, 60),
    ]);
    const { song: after } = take(
      song,
      'controllers.draw',
      { lane: 11, from: 64, to: 65 },
      { bars: { from: 2, to: 2 } },
    );
    expect(plainEvents(after.tracks[0]!.events).filter((e) => e.includes(' b0'))).toEqual([
      '0 b00b01',
      '384 b00b40',
      '400 b00703',
      '576 b00b41',
      '900 b00b04',
    ]);
  });
});

describe('resetting', () => {
  it('states usual values at start and end (General MIDI: volume 100, expression 127, modulation 0, bend centred)', () => {
    const song = songOf([
      controller(50, 11, 20),
      controller(60, 1, 5),
      channelEvent(70, 0xe0, 1, 70),
      controller(0, 7, 90),
      controller(80, 7, 100),
      ...note(0, 96, 60),
    ]);
    const { song: after, report } = take(song, 'controllers.reset');
    expect(
      plainEvents(after.tracks[0]!.events)
        .filter((e) => /^(0|96) (b0|e0)/.test(e))
        .sort(),
    ).toEqual(
      [
        '0 b0075a',
        '0 b00b7f',
        '0 b00100',
        '0 e00040',
        '96 b00b7f',
        '96 b00100',
        '96 e00040',
      ].sort(),
    );
    expect(report.changes[0]!.counts).toEqual({ controller: 4, bend: 2 });
    expect(endTick(after.tracks[0]!.events)).toBe(96);
  });
});

describe('writing by hand', () => {
  const song = songOf([
    controller(0, 11, 1),
    controller(100, 11, 2),
    controller(200, 11, 3),
    ...note(0, 300, 60),
  ]);
  const write = (settings: object): string[] =>
    plainEvents(
      take(song, 'controllers.write', { track: 't1', channel: 1, lane: 11, ...settings }).song
        .tracks[0]!.events,
    ).filter((e) => e.includes('b00b'));

  it('puts points in place of what was there, and erases without', () => {
    expect(
      write({
        from: 50,
        to: 200,
        points: [
          [50, 9],
          [60, 8],
        ],
      }),
    ).toEqual(['0 b00b01', '50 b00b09', '60 b00b08', '200 b00b03']);
    expect(write({ from: 0, to: 200 })).toEqual(['200 b00b03']);
  });

  it.each([
    ['a span turned round', { from: 9, to: 3 }],
    ['points outside', { from: 0, to: 10, points: [[10, 1]] }],
    ['values above 127 but for bend', { from: 0, to: 10, points: [[1, 128]] }],
    [
      'two values on a tick',
      {
        from: 0,
        to: 10,
        points: [
          [1, 1],
          [1, 2],
        ],
      },
    ],
  ])('refuses %s', (_, settings) => {
    expect(
      refusal(song, 'controllers.write', { track: 't1', channel: 1, lane: 11, ...settings }),
    ).toBe('settings-invalid');
  });

  it('refuses a track that is not there', () => {
    expect(
      refusal(song, 'controllers.write', { track: 't9', channel: 1, lane: 11, from: 0, to: 9 }),
    ).toBe('track-unknown');
  });
});
