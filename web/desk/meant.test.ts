import { describe, expect, it } from 'vitest';
import { lookOver } from '#core/looking/look-over.ts';
import { channelEvent } from '#core/smf/events.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { meantBy, type Asked } from './meant.ts';

const asked = (song: ReturnType<typeof songOf>, rule: string): Asked[] =>
  lookOver(song)
    .filter((f) => f.rule === rule)
    .map(({ settle: [first], tracks, ...f }) => ({
      rule: f.rule,
      tracks,
      step: first && {
        operation: first.operation,
        settings: first.settings,
        scope: { ...first.scope, tracks: first.scope.tracks },
      },
    }));

/** Forty notes of one velocity for a flute, four of them beneath its lowest key, C4 (common practice). */
const flute = songOf(
  [],
  [
    channelEvent(0, 0xc0, 73),
    ...Array.from({ length: 40 }, (_, n) => note(n * 96, 90, n < 4 ? 50 + n : 72 + (n % 5))).flat(),
  ],
);

describe('what a finding is about', () => {
  it('is every note of one velocity, also those that spreading would leave as they are', () => {
    const found = asked(flute, 'one-velocity');
    expect(found).toHaveLength(1);
    expect(meantBy(flute, found).notes).toBe(40);
  });

  it('is just the notes that cannot be played, though the whole part would be moved', () => {
    const found = asked(flute, 'out-of-range');
    expect(found).toHaveLength(1);
    const { rows, notes, ticks } = meantBy(flute, found);
    expect(notes).toBe(4);
    expect(ticks.t2).toEqual([0, 96, 192, 288]);
    const { data1 } = flute.tracks[1]!.events;
    const keys = rows.t2!.flatMap(([from, to]) => [...data1.subarray(from, to + 1)]);
    expect(keys).toEqual([50, 51, 52, 53]);
  });

  it('is the values that a step would take out, and no others', () => {
    const song = songOf(
      [],
      [controller(0, 7, 90), controller(10, 7, 90), controller(20, 7, 91), ...note(0, 96, 60)],
    );
    const step = {
      operation: 'controllers.thin',
      settings: { error: 0 },
      scope: { tracks: 'all' as const },
    };
    const { rows, values, notes, others } = meantBy(song, [
      { rule: 'idle-values', tracks: ['t2'], step },
    ]);
    expect([values, notes, others]).toEqual([1, 0, 0]);
    const [[row]] = rows.t2! as [[number, number]];
    expect(song.tracks[1]!.events.atTick[row]).toBe(10);
  });

  it('is no single events where time would move', () => {
    const step = {
      operation: 'bars.cut',
      settings: {},
      scope: { tracks: 'all' as const, bars: { from: 1, to: 1 } },
    };
    expect(meantBy(flute, [{ rule: 'gap-before', tracks: [], step }])).toMatchObject({
      rows: {},
      notes: 0,
    });
  });
});
