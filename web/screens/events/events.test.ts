import { describe, expect, it } from 'vitest';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent } from '#core/smf/events.ts';
import { indexEvents } from '#core/song/event-index.ts';
import { encodeText } from '#core/smf/text.ts';
import { trackView } from '../../../tests/support/views.ts';
import { eventFilter, type Kind } from './filter.ts';
import { spansOf } from '../../state/spans.ts';

const events = eventsFrom([
  metaEvent(0, meta.trackName, encodeText('Flute')),
  metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
  channelEvent(0, 0xb0, 0, 3),
  channelEvent(0, 0xc0, 73),
  channelEvent(0, 0xb0, 11, 64),
  channelEvent(0, 0x90, 60, 64),
  channelEvent(5, 0xe0, 0, 64),
  channelEvent(6, 0xd0, 9),
  { atTick: 7, status: 0xf0, data1: 0, data2: 0, payload: Uint8Array.of(0x7e, 0xf7) },
  channelEvent(10, 0x80, 60, 20),
]);
const rows = (kind: Kind, words = ''): number[] => [
  ...indexEvents([events], eventFilter(kind, words, 'UTF-8', 4)).row,
];

describe('filters of the event list', () => {
  it.each<[Kind, number[]]>([
    ['everything', [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]],
    ['notes', [5]],
    ['controllers', [2, 4]],
    ['programs', [2, 3]],
    ['bend', [6]],
    ['pressure', [7]],
    ['system exclusive', [8]],
    ['texts', [0]],
    ['timing', [1, 10]],
  ])('%s', (kind, expected) => {
    expect(rows(kind)).toEqual(expected);
  });

  it('find words in names and values, figures in values too', () => {
    expect(rows('everything', 'flute')).toEqual([0, 3]);
    expect(rows('everything', 'EXPRESSION')).toEqual([4]);
    expect(rows('everything', 'c4')).toEqual([5, 9]);
    expect(rows('notes', 'velocity 64')).toEqual([5]);
    expect(rows('everything', '120 BPM')).toEqual([1]);
    expect(rows('everything', 'bassoon')).toEqual([]);
  });
});

describe('ranges', () => {
  const found = (ranges: Parameters<typeof eventFilter>[4]): number[] => [
    ...indexEvents([events], eventFilter('everything', '', 'UTF-8', 4, ranges)).row,
  ];

  it('keep notes by key and velocity, one controller, or a span of ticks', () => {
    expect(found({ keys: [60, 60], velocities: [60, 70] })).toEqual([5]);
    expect(found({ keys: [61, 127] })).toEqual([]);
    expect(found({ controller: 11 })).toEqual([4]);
    expect(found({ ticks: { from: 5, to: 7 } })).toEqual([6, 7]);
  });
});

describe('chosen rows', () => {
  it('become spans of each track’s own rows', () => {
    const tracks = [trackView({ id: 't1' }), trackView({ id: 't2' })];
    const index = {
      count: 6,
      track: Uint32Array.of(0, 0, 1, 0, 1, 0),
      row: Uint32Array.of(0, 1, 0, 2, 5, 9),
    };
    expect(spansOf(new Set([5, 0, 1, 3, 4, 2]), index, tracks)).toEqual({
      t1: [
        [0, 2],
        [9, 9],
      ],
      t2: [
        [0, 0],
        [5, 5],
      ],
    });
  });
});
