import { describe, expect, it } from 'vitest';
import { end } from '../../tests/support/bars-by-hand.ts';
import { note, songOf, take } from '../../tests/support/songs.ts';
import { endTick, isMeta, meta, metaEvent, payloadOf, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';

/** Two voices of two channels over two bars, on port 2 of a device that is named. */
const part: EventValue[] = [
  metaEvent(0, meta.trackName, encodeText('Pair')),
  metaEvent(0, meta.port, Uint8Array.of(1)),
  metaEvent(0, meta.deviceName, encodeText('Rack')),
  ...note(0, 96, 48, 80, 0),
  ...note(0, 96, 67, 80, 1),
  ...note(480, 96, 50, 80, 0),
  ...note(480, 96, 69, 80, 1),
];

/** Port metas (RP-019) and device names (SMF 1.0) of every track. */
const devices = (song: ReturnType<typeof songOf>): string[] =>
  song.tracks.slice(1).map(({ events }) => {
    const of = (type: number) =>
      Array.from({ length: events.count }, (_, i) => i)
        .filter((i) => isMeta(events, i, type))
        .map((i) => [...payloadOf(events, i)].join(' '));
    return [...of(meta.port), ...of(meta.deviceName)].join(' | ');
  });

describe('what is taken out of a track plays the device that the track plays (SMF 1.0, RP-019)', () => {
  it.each([
    ['tracks.split-by-channel', {}, 2],
    ['tracks.split-by-channel', { names: true }, 2],
    ['tracks.split-by-pitch', { key: 60 }, 2],
    ['tracks.split-by-pitch', { key: 60, along: false }, 2],
    ['tracks.split-by-voice', {}, 2],
    ['tracks.split-at', { before: 2 }, 2],
  ])('%s %j', (operation, settings, parts) => {
    const before = songOf([end(2)], [...part, end(2)]);
    const { song } = take(before, operation, settings, { tracks: ['t2'] });
    expect(devices(song).filter((d) => d === '1 | 82 97 99 107').length).toBeGreaterThanOrEqual(
      parts,
    );
    expect(new Set(devices(song)).size).toBe(1);
    // Two bars of 384 ticks: each part is as long as the whole.
    expect(song.tracks.map((t) => endTick(t.events))).toEqual(song.tracks.map(() => 768));
  });
});

describe('what a split says of its parts', () => {
  it('is how many notes each has, by hand: three low ones and one high one', () => {
    const before = songOf(
      [end(2)],
      [
        metaEvent(0, meta.trackName, encodeText('Pair')),
        ...note(0, 96, 48),
        ...note(96, 96, 67),
        ...note(192, 96, 50),
        ...note(288, 96, 45),
        end(2),
      ],
    );
    const split = { key: 60 };
    const { report } = take(before, 'tracks.split-by-pitch', split, { tracks: ['t2'] });
    expect(report.changes.map((c) => c.counts.note).sort()).toEqual([1, 3]);
  });
});
