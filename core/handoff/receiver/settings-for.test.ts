import { describe, expect, it } from 'vitest';
import { limitsSchema, type Limits } from './receiver.ts';
import {
  asMark,
  channelsFor,
  fittingResolution,
  takesController,
  tracksInOne,
} from './settings-for.ts';
import type { SongFacts } from './settings-for.ts';

const limits = (some: Partial<Limits> = {}): Limits => limitsSchema.parse(some);
const facts = (
  ...tracks: readonly (readonly [channels: readonly number[], kit?: boolean])[]
): SongFacts => ({
  division: { kind: 'ppq', ticksPerQuarter: 480 },
  format: 1,
  sections: 0,
  temposApart: Infinity,
  tracks: tracks.map(([channels, kit = false], n) => ({ id: `t${n + 1}`, channels, kit })),
});

/** Channels are from 0 in tracks, from 1 in settings. Expected values are worked by hand. */
describe('channels for a receiver', () => {
  it('a part above its last channel goes to the first that is free below, one at it stays', () => {
    // Eight channels: 0 to 7. Channels 0 and 7 are taken, so channel 8 goes to channel 1.
    expect(channelsFor(limits({ channels: 8 }), facts([[0]], [[7]], [[8]]))).toEqual([
      { track: 't3', channel: 2 },
    ]);
    expect(channelsFor(limits({ channels: 9 }), facts([[0]], [[8]]))).toBe('as they are');
  });

  it('two above it get two channels, and what finds none stays where it is', () => {
    expect(channelsFor(limits({ channels: 2 }), facts([[0]], [[4]], [[5]]))).toEqual([
      { track: 't2', channel: 2 },
    ]);
  });

  it('the tenth is left to drums', () => {
    const most = facts(...Array.from({ length: 9 }, (_, n) => [[n]] as const), [[14]]);
    expect(channelsFor(limits({ channels: 11 }), most)).toEqual([{ track: 't10', channel: 11 }]);
  });

  it('a kit elsewhere goes to the tenth, if drums are there and there is a tenth', () => {
    const drums = { drums: 'on channel 10' as const };
    expect(channelsFor(limits(drums), facts([[3], true]))).toEqual([{ track: 't1', channel: 10 }]);
    expect(channelsFor(limits({ ...drums, channels: 10 }), facts([[3], true]))).toHaveLength(1);
    expect(channelsFor(limits({ ...drums, channels: 9 }), facts([[3], true]))).toBe('as they are');
    expect(channelsFor(limits(drums), facts([[9], true]))).toBe('as they are');
  });

  it('a track on several channels is left alone', () => {
    expect(channelsFor(limits({ channels: 4 }), facts([[0, 9]]))).toBe('as they are');
  });
});

describe('a resolution for a receiver', () => {
  it('is the song’s own where that is taken, or any', () => {
    expect(fittingResolution(480, limits())).toBeNull();
    expect(fittingResolution(480, limits({ resolutions: [96, 480] }))).toBeNull();
  });

  it('is the coarsest in which no place is rounded, else the finest there is', () => {
    // 960 and 1920 are whole multiples of 240: 960 is enough.
    expect(fittingResolution(240, limits({ resolutions: [1920, 96, 960] }))).toBe(960);
    expect(fittingResolution(100, limits({ resolutions: [96, 480, 120] }))).toBe(480);
  });
});

describe('what a receiver takes', () => {
  it('controllers by their list, or all but those of it', () => {
    const takes = (controllers: Limits['controllers']) =>
      [1, 7].map((n) =>
        takesController(
          limits({
            controllers,
            ...(controllers === 'only' || controllers === 'all but' ? { controllerList: [7] } : {}),
          }),
          n,
        ),
      );
    expect(takes('only')).toEqual([false, true]);
    expect(takes('all but')).toEqual([true, false]);
    expect([takes('all'), takes('none')]).toEqual([
      [true, true],
      [false, false],
    ]);
  });

  it('marks as the one kind it knows', () => {
    expect(asMark(limits({ marks: [] }))).toBe('none');
    expect(asMark(limits({ marks: ['cue points'] }))).toBe('cue points');
    expect(asMark(limits({ marks: ['markers', 'cue points'] }))).toBe('as they are');
  });

  it('everything in two tracks behind the map, or in one of format 0', () => {
    expect(tracksInOne(limits({ tracks: 2 }))).toEqual({ format: 1, tracks: 'one' });
    expect(tracksInOne(limits({ tracks: 1, formats: [0] }))).toMatchObject({ format: 0 });
  });
});
