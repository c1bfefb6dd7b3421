import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue, type Events } from '../smf/events.ts';
import type { Scope } from '../song/scope.ts';
import type { Song } from '../song/song.ts';
import { noteFaults, faultCount } from '../edit/note-faults.ts';
import { lanesOf } from '../song/lanes.ts';
import { noteRows } from '../edit/velocities.ts';
import { runStep } from './run.ts';

function songWith(events: Events): Song {
  return {
    title: 'x',
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    encoding: 'UTF-8',
    nextTrack: 2,
    tracks: [{ id: 't1', events }],
  };
}

/** The first track after one step. */
function after(
  events: Events,
  operation: string,
  settings: object = {},
  scope: Partial<Scope> = {},
): Events {
  const result = runStep(songWith(events), {
    operation,
    settings,
    scope: { tracks: 'all', ...scope },
  });
  if (!result.ok) throw new Error(`${result.problem.code} ${JSON.stringify(result.problem)}`);
  return result.value.song.tracks[0]!.events;
}

const note = (
  tick: number,
  length: number,
  key: number,
  velocity = 80,
  channel = 0,
): EventValue[] => [
  channelEvent(tick, 0x90 | channel, key, velocity),
  channelEvent(tick + length, 0x80 | channel, key, 64),
];
const controller = (tick: number, number: number, value: number): EventValue =>
  channelEvent(tick, 0xb0, number, value);
const velocities = (events: Events): number[] => noteRows(events).map((i) => events.data2[i]!);
const lines = (events: Events): string[] => plainEvents(events).filter((e) => !e.endsWith('ff2f'));

describe('removing kinds of event', () => {
  const events = eventsFrom([
    metaEvent(0, meta.trackName, Uint8Array.of(65)),
    controller(0, 0, 1),
    controller(0, 32, 2),
    channelEvent(0, 0xc0, 5),
    controller(0, 7, 90),
    controller(0, 91, 40),
    ...note(10, 20, 60),
    channelEvent(50, 0xc0, 6),
    controller(50, 91, 10),
    channelEvent(60, 0xe0, 0, 70),
  ]);

  it('takes out exactly the kinds and controllers named', () => {
    expect(lines(after(events, 'events.remove', { kinds: ['programs', 'banks'] }))).toEqual([
      '0 ff03 41',
      '0 b0075a',
      '0 b05b28',
      '10 903c50',
      '30 803c40',
      '50 b05b0a',
      '60 e00046',
    ]);
    expect(
      lines(after(events, 'events.remove', { controllers: [91] })).filter((e) =>
        e.includes('b05b'),
      ),
    ).toEqual([]);
    expect(
      lines(
        after(events, 'events.remove', { kinds: ['programs', 'banks'], keepFirst: true }),
      ).filter((e) => / (c0|b000|b020)/.test(e)),
    ).toEqual(['0 b00001', '0 b02002', '0 c005']);
  });

  it('keeps to the bars of the scope', () => {
    // A bar of 4/4 at 96 PPQ is 384 ticks.
    const two = eventsFrom([
      controller(0, 91, 1),
      controller(383, 91, 2),
      controller(384, 91, 3),
      controller(768, 91, 4),
    ]);
    expect(
      lines(after(two, 'events.remove', { controllers: [91] }, { bars: { from: 2, to: 2 } })),
    ).toEqual(['0 b05b01', '383 b05b02']);
    expect(
      lines(after(two, 'events.remove', { controllers: [91] }, { bars: { from: 1, to: 1 } })),
    ).toEqual(['384 b05b03', '768 b05b04']);
  });

  it('strips to notes and keeps the name', () => {
    expect(lines(after(events, 'events.keep-notes'))).toEqual([
      '0 ff03 41',
      '10 903c50',
      '30 803c40',
    ]);
  });
});

describe('thinning', () => {
  it('leaves out repeats only when the error is 0', () => {
    const events = eventsFrom([60, 60, 61, 61, 60, 60].map((v, i) => controller(i, 11, v)));
    expect(lines(after(events, 'controllers.thin'))).toEqual(['0 b00b3c', '2 b00b3d', '4 b00b3c']);
  });

  it('never strays further than the stated error, keeps the first and the last value, and adds nothing', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 200 }),
        fc.integer({ min: 0, max: 32 }),
        (values, error) => {
          const thin = after(
            eventsFrom(values.map((v, i) => controller(i, 11, v))),
            'controllers.thin',
            { error },
          );
          const [lane] = lanesOf(thin);
          let held = -1;
          values.forEach((value, tick) => {
            const at = lane!.rows.findIndex((row) => thin.atTick[row] === tick);
            if (at !== -1) held = lane!.values[at]!;
            expect(Math.abs(held - value)).toBeLessThanOrEqual(error);
          });
          expect(held).toBe(values.at(-1));
          expect(lane!.values[0]).toBe(values[0]);
          expect(lane!.values.length).toBeLessThanOrEqual(values.length);
        },
      ),
      { seed: 31 },
    );
  });

  it('keeps every change of a pedal and never touches data entry', () => {
    const events = eventsFrom([
      controller(0, 64, 127),
      controller(5, 64, 100),
      controller(9, 64, 0),
      controller(10, 6, 2),
      controller(11, 6, 2),
    ]);
    expect(lines(after(events, 'controllers.thin', { error: 32 }))).toEqual([
      '0 b0407f',
      '9 b04000',
      '10 b00602',
      '11 b00602',
    ]);
  });
});

describe('velocity', () => {
  const played = fc.array(fc.integer({ min: 1, max: 127 }), { minLength: 1, maxLength: 60 });
  const withVelocities = (values: number[]): Events =>
    eventsFrom(values.flatMap((v, i) => note(i * 10, 5, 60, v)));

  it('scales and adds within 1 to 127, by hand-worked values', () => {
    expect(
      velocities(after(withVelocities([10, 64, 127]), 'velocity.set', { scale: 50, add: 10 })),
    ).toEqual([15, 42, 74]);
    expect(
      velocities(after(withVelocities([10, 64, 127]), 'velocity.set', { scale: 200 })),
    ).toEqual([20, 127, 127]);
    expect(velocities(after(withVelocities([10, 64]), 'velocity.set', { to: 80 }))).toEqual([
      80, 80,
    ]);
  });

  it('widens into the range and keeps the order', () => {
    fc.assert(
      fc.property(
        played,
        fc.integer({ min: 1, max: 127 }),
        fc.integer({ min: 1, max: 127 }),
        (values, a, b) => {
          const [lowest, highest] = [Math.min(a, b), Math.max(a, b)];
          const wide = velocities(
            after(withVelocities(values), 'velocity.widen', { lowest, highest }),
          );
          for (let i = 0; i < values.length; i++) {
            expect(wide[i]).toBeGreaterThanOrEqual(lowest);
            expect(wide[i]).toBeLessThanOrEqual(highest);
            for (let j = 0; j < i; j++)
              if (values[j]! < values[i]!) expect(wide[j]).toBeLessThanOrEqual(wide[i]!);
          }
        },
      ),
      { seed: 32 },
    );
  });

  it('randomises alike for one seed, differently for another, never by more than the spread', () => {
    fc.assert(
      fc.property(
        played,
        fc.integer({ min: 1, max: 60 }),
        fc.constantFrom('bell', 'even'),
        (values, spread, shape) => {
          const moved = (seed: number): number[] =>
            velocities(
              after(withVelocities(values), 'velocity.randomise', { spread, shape, seed }),
            );
          expect(moved(5)).toEqual(moved(5));
          moved(5).forEach((v, i) => expect(Math.abs(v - values[i]!)).toBeLessThanOrEqual(spread));
        },
      ),
      { seed: 33 },
    );
    const many = Array.from({ length: 50 }, () => 64);
    const moved = (seed: number): number[] =>
      velocities(after(withVelocities(many), 'velocity.randomise', { seed }));
    expect(moved(1)).not.toEqual(moved(2));
  });

  it('accents by the meter: 3/4 at 96 PPQ, beats at 0, 96 and 192, hand-worked', () => {
    const threeFour = metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8));
    const events = eventsFrom([
      threeFour,
      ...[0, 48, 96, 192, 288, 290].flatMap((t) => note(t, 5, 60 + (t % 7), 80)),
    ]);
    expect(
      velocities(after(events, 'velocity.accent', { first: 10, beats: 5, between: -5 })),
    ).toEqual([90, 75, 85, 85, 90, 90]);
  });
});

describe('transposing', () => {
  it('moves notes and their pressure, leaves drums, folds at the edges', () => {
    const events = eventsFrom([
      ...note(0, 10, 60),
      channelEvent(5, 0xa0, 60, 30),
      ...note(20, 10, 120),
      ...note(0, 10, 38, 80, 9),
    ]);
    expect(lines(after(events, 'notes.transpose', { semitones: 12 }))).toEqual([
      '0 904850',
      '0 992650',
      '5 a0481e',
      '10 804840',
      '10 892640',
      '20 907850',
      '30 807840',
    ]);
    expect(
      lines(after(events, 'notes.transpose', { semitones: 12, outside: 'drop' })).some((e) =>
        e.startsWith('20'),
      ),
    ).toBe(false);
  });

  it('goes back where it came from where nothing was folded', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 24, max: 100 }), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: -24, max: 24 }),
        (keys, semitones) => {
          const events = eventsFrom(keys.flatMap((k, i) => note(i * 7, 5, k)));
          expect(
            lines(
              after(after(events, 'notes.transpose', { semitones }), 'notes.transpose', {
                semitones: -semitones,
              }),
            ),
          ).toEqual(lines(events));
        },
      ),
      { seed: 34 },
    );
  });
});

describe('repairing notes', () => {
  it('ends, cuts and drops as it should, hand-worked', () => {
    const events = eventsFrom([
      channelEvent(0, 0x90, 60, 80),
      channelEvent(50, 0x90, 60, 70),
      channelEvent(100, 0x80, 60, 1), // cut at 50, the second ends at 100
      channelEvent(0, 0x90, 62, 80),
      channelEvent(0, 0x90, 62, 80),
      channelEvent(40, 0x80, 62, 2),
      channelEvent(40, 0x80, 62, 3), // twice
      channelEvent(10, 0x90, 64, 80),
      channelEvent(10, 0x80, 64, 4), // no length
      channelEvent(20, 0x90, 65, 80), // never ends
      metaEvent(200, meta.endOfTrack),
    ]);
    const repaired = after(events, 'notes.repair');
    expect(lines(repaired)).toEqual([
      '0 903c50',
      '0 903e50',
      '20 904150',
      '40 803e02',
      '50 803c40',
      '50 903c46',
      '100 803c01',
      '200 804140',
    ]);
  });

  it('leaves no fault in any track, and what was sound stays', () => {
    fc.assert(
      fc.property(trackEvents, (events) => {
        const repaired = after(events, 'notes.repair');
        expect(faultCount(noteFaults(repaired))).toBe(0);
        if (faultCount(noteFaults(events)) === 0)
          expect(noteRows(repaired)).toHaveLength(noteRows(events).length);
        const others = (e: Events): string[] => lines(e).filter((l) => !/^\d+ [89]/.test(l));
        expect(others(repaired)).toEqual(others(events));
      }),
      { seed: 35, numRuns: scaleRuns(600) },
    );
  });
});

describe('scopes', () => {
  const events = eventsFrom(note(0, 10, 60));
  const code = (operation: string, bars: { from: number; to: number }): string => {
    const result = runStep(songWith(events), {
      operation,
      settings: operation === 'tracks.rename' ? { name: 'A' } : {},
      scope: { tracks: 'all', bars },
    });
    return result.ok ? 'done' : result.problem.code;
  };

  it('are refused where they are empty, upside down, or would be passed over', () => {
    expect(code('events.keep-notes', { from: 9, to: 12 })).toBe('scope-behind-end');
    expect(code('events.keep-notes', { from: 3, to: 2 })).toBe('settings-invalid');
    expect(code('events.keep-notes', { from: 0, to: 2 })).toBe('settings-invalid');
    expect(code('tracks.rename', { from: 1, to: 1 })).toBe('scope-has-bars');
  });
});

describe('deleting events', () => {
  const events = eventsFrom([
    controller(0, 7, 90),
    ...note(0, 20, 60),
    ...note(5, 30, 62),
    controller(40, 7, 80),
  ]);
  // Rows: 0 volume, 1 note 60 on, 2 note 62 on, 3 note 60 off, 4 note 62 off, 5 volume, 6 end of track.

  it('takes out the rows named, notes with both their ends', () => {
    expect(lines(after(events, 'events.delete', { rows: { t1: [[0, 1]] } }))).toEqual([
      '5 903e50',
      '35 803e40',
      '40 b00750',
    ]);
    expect(lines(after(events, 'events.delete', { rows: { t1: [[3, 3]] } }))).not.toContain(
      '0 903c50',
    );
    expect(
      lines(after(events, 'events.delete', { rows: { t1: [[3, 3]] }, wholeNotes: false })),
    ).toContain('0 903c50');
  });

  it('leaves the end of track, and refuses rows and tracks that are not there', () => {
    const code = (rows: object): string => {
      const result = runStep(songWith(events), { operation: 'events.delete', settings: { rows } });
      return result.ok ? `changed ${result.value.report.changes.length}` : result.problem.code;
    };
    expect(code({ t1: [[6, 6]] })).toBe('changed 0');
    expect(code({ t1: [[0, 7]] })).toBe('settings-invalid');
    expect(code({ t1: [[3, 2]] })).toBe('settings-invalid');
    expect(code({ t9: [[0, 0]] })).toBe('track-unknown');
    expect(code({})).toBe('settings-invalid');
  });
});
