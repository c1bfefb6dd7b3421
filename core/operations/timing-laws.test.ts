import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { mappedSong } from '../../tests/support/map-steps.ts';
import { take } from '../../tests/support/songs.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { sameEvents } from '../smf/compare.ts';
import { META, endTick, type Events } from '../smf/events.ts';
import { pickEvents } from '../smf/event-builder.ts';
import type { Song } from '../song/song.ts';
import { barTick, meterMap, positionAt } from '../timing/meter-map.ts';
import { tempoAt, tempoMap, ticksToSeconds, type TempoMap } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';

const withoutMetas = (events: Events): Events =>
  pickEvents(
    events,
    Array.from({ length: events.count }, (_, i) => i).filter(
      (i) => events.status[i] !== META || i === events.count - 1,
    ),
  );

/** A song of 96 PPQ with a map at random and music of every kind. */
const played = fc
  .tuple(mappedSong, fc.array(trackEvents, { minLength: 1, maxLength: 3 }))
  .map(([song, parts]): Song => ({
    ...song,
    tracks: [
      ...song.tracks,
      ...parts.map((events, i) => ({ id: `t${i + 2}`, events: withoutMetas(events) })),
    ],
    nextTrack: parts.length + 2,
  }));
const mapIn = (song: Song): TempoMap => tempoMap(timingOf(song).tempos, song.division);
const length = (song: Song): number => timingOf(song).endTick;

/** Each event by what it is, with the seconds at which it stands, in the order of the track. */
function sounding({ tracks, ...song }: Song): { says: string; seconds: number; tick: number }[][] {
  const map = mapIn({ tracks, ...song });
  return tracks.slice(1).map(({ events }) =>
    Array.from({ length: events.count - 1 }, (_, i) => ({
      says: `${events.status[i]} ${events.data1[i]} ${events.data2[i]}`,
      seconds: ticksToSeconds(map, events.atTick[i]!),
      tick: events.atTick[i]!,
    })),
  );
}

describe('music that keeps its seconds', () => {
  const change = fc.oneof(
    fc.tuple(
      fc.constant('timing.tempo'),
      fc.record({ bar: fc.integer({ min: 1, max: 15 }), bpm: fc.integer({ min: 30, max: 400 }) }),
    ),
    fc.tuple(
      fc.constant('timing.ramp'),
      fc.integer({ min: 1, max: 10 }).chain((bar) =>
        fc.record({
          bar: fc.constant(bar),
          toBar: fc.integer({ min: bar + 1, max: bar + 6 }),
          from: fc.integer({ min: 40, max: 200 }),
          to: fc.integer({ min: 40, max: 200 }),
        }),
      ),
    ),
    fc.tuple(
      fc.constant('timing.fit'),
      fc.record({
        lastBar: fc.integer({ min: 1, max: 12 }),
        length: fc.integer({ min: 2, max: 60 }),
      }),
    ),
    fc.tuple(
      fc.constant('timing.places'),
      fc.record({
        tempos: fc.array(
          fc.record({ atTick: fc.nat(6000), bpm: fc.integer({ min: 40, max: 240 }) }),
          { minLength: 1, maxLength: 4 },
        ),
        instead: fc.boolean(),
      }),
    ),
  );

  it('stands within half a tick of where it sounded, every event of it, in its order', () => {
    fc.assert(
      fc.property(played, change, (song, [operation, settings]) => {
        const { song: after } = take(song, operation, { ...settings, music: 'keeps its seconds' });
        const now = mapIn(after);
        sounding(song).forEach((before, n) => {
          const its = sounding(after)[n]!;
          expect(its.map((e) => e.says)).toEqual(before.map((e) => e.says));
          its.forEach((e, i) => {
            // Half a tick, at the slower of the tempos on both sides of it.
            const half =
              Math.max(tempoAt(now, e.tick), tempoAt(now, Math.max(0, e.tick - 1))) / now.scale / 2;
            expect(Math.abs(e.seconds - before[i]!.seconds)).toBeLessThanOrEqual(half + 1e-9);
          });
        });
      }),
      { seed: 101, numRuns: scaleRuns(150) },
    );
  });

  it('and that keeps its bars does not move at all', () => {
    fc.assert(
      fc.property(played, change, (song, [operation, settings]) => {
        const { song: after } = take(song, operation, settings);
        song.tracks.slice(1).forEach((t, i) => expect(after.tracks[i + 1]).toBe(t));
      }),
      { seed: 102, numRuns: scaleRuns(80) },
    );
  });
});

describe('a resolution', () => {
  it('moves nothing by more than half a new tick, and a finer one of whole proportion moves nothing: back again it is the same song', () => {
    fc.assert(
      fc.property(
        played,
        fc.integer({ min: 1, max: 2000 }),
        fc.integer({ min: 2, max: 10 }),
        (song, ppq, times) => {
          if (ppq !== 96) {
            const { song: coarse } = take(song, 'timing.resolution', { ppq });
            coarse.tracks.forEach(({ events }, t) =>
              events.atTick.forEach((tick, i) =>
                expect(
                  Math.abs(tick / ppq - song.tracks[t]!.events.atTick[i]! / 96),
                ).toBeLessThanOrEqual(0.5 / ppq + 1e-9),
              ),
            );
          }
          const back = take(
            take(song, 'timing.resolution', { ppq: 96 * times }).song,
            'timing.resolution',
            { ppq: 96 },
          ).song;
          expect(back.tracks.map((t, i) => sameEvents(t.events, song.tracks[i]!.events))).toEqual(
            song.tracks.map(() => true),
          );
        },
      ),
      { seed: 103, numRuns: scaleRuns(100) },
    );
  });
});

describe('a lead-in', () => {
  it('that is added moves every note by its bars, and dropped again leaves the song as it was', () => {
    fc.assert(
      fc.property(played, fc.integer({ min: 1, max: 8 }), (song, bars) => {
        const led = take(song, 'timing.lead-in', { bars });
        const by = barTick(meterMap(timingOf(song).meters, song.division), 2) * bars;
        const ons = (s: Song): number[] =>
          s.tracks
            .slice(1)
            .flatMap(({ events }) =>
              [...events.atTick].filter(
                (_, i) => events.status[i]! >> 4 === 9 && events.data2[i]! > 0,
              ),
            );
        expect(ons(led.song)).toEqual(ons(song).map((tick) => tick + by));
        const back = take(led.song, 'timing.lead-in', { bars: -bars }).song;
        expect(ons(back)).toEqual(ons(song));
        expect(length(back)).toBe(length(song));
        expect(timingOf(back).meters).toEqual(timingOf(song).meters);
        expect(timingOf(back).tempos).toEqual(timingOf(song).tempos);
      }),
      { seed: 104, numRuns: scaleRuns(100) },
    );
  });
});

describe('a length', () => {
  it('ends every track with its bar, or with its own last event where that lies behind', () => {
    fc.assert(
      fc.property(played, fc.integer({ min: 1, max: 200 }), (song, bars) => {
        const after = take(song, 'timing.length', { bars }).song;
        const map = meterMap(timingOf(song).meters, song.division);
        const end = barTick(map, bars + 1);
        after.tracks.forEach(({ events }) =>
          expect(endTick(events)).toBe(
            Math.max(end, events.count > 1 ? events.atTick[events.count - 2]! : 0),
          ),
        );
        expect(positionAt(map, end)).toEqual({ bar: bars + 1, beat: 1, tick: 0 });
      }),
      { seed: 105, numRuns: scaleRuns(100) },
    );
  });
});
