import { expect, it } from 'vitest';
import type { SongView } from '#contracts/songs.ts';
import { mapsOf } from '#core/song/maps.ts';
import { knownSettings } from './known-settings.ts';

/** Four bars of 4/4 at 96 PPQ: two at 120 BPM, then 90. */
const song = {
  division: { kind: 'ppq', ticksPerQuarter: 96 },
  timing: {
    tempos: [
      { atTick: 0, microsecondsPerQuarter: 500_000 },
      { atTick: 768, microsecondsPerQuarter: 666_667 },
    ],
    meters: [],
    bars: 4,
    endTick: 1536,
  },
} as unknown as SongView;

it('steps of the map begin with the bars of the scope and the tempos there (by hand: a bar at 120 BPM is 2 s, at 90 2.667 s)', () => {
  const known = knownSettings(song, mapsOf(song), { from: 2, to: 3 });
  expect(known['timing.ramp']).toEqual({ bar: 2, toBar: 4, from: 120, to: 90 });
  expect(known['timing.fit']).toEqual({ bar: 2, lastBar: 3, length: 4.667 });
  expect(known['timing.section']).toEqual({ bar: 2, lastBar: 3 });
});

it('without a scope they begin with the whole song, a gradual change with its first bars, slower by a fifth', () => {
  const known = knownSettings(song, mapsOf(song), undefined);
  expect(known['timing.fit']).toEqual({ bar: 1, lastBar: 4, length: 9.333 });
  expect(known['timing.ramp']).toEqual({ bar: 1, toBar: 5, from: 120, to: 96 });
});
