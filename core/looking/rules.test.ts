import { describe, expect, it } from 'vitest';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import type { Song } from '../song/song.ts';
import type { Finding } from './finding.ts';
import { lookOver } from './look-over.ts';

/** A song at 96 PPQ, a bar of 4/4 is 384 ticks; track ids are t1, t2 … */
function songOf(...tracks: EventValue[][]): Song {
  return {
    title: 'x',
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    encoding: 'UTF-8',
    nextTrack: 99,
    tracks: tracks.map((events, i) => ({ id: `t${i + 1}`, events: eventsFrom(events) })),
  };
}

const name = (text: string): EventValue => metaEvent(0, meta.trackName, encodeText(text));
const map: EventValue[] = [
  name('Map'),
  metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
  metaEvent(3840, meta.endOfTrack),
];

/** A sound part: ten notes of many velocities, a program, one channel. */
const part = (
  channel: number,
  called = `Part ${'ABCDEFGH'[channel]}`,
  key = 50 + channel,
): EventValue[] => [
  name(called),
  channelEvent(0, 0xc0 | channel, 10 + channel),
  ...Array.from({ length: 10 }, (_, i) => [
    channelEvent(i * 96, 0x90 | channel, key + (i % 5), 40 + i * 7),
    channelEvent(i * 96 + 80, 0x80 | channel, key + (i % 5), 64),
  ]).flat(),
];
const found = (song: Song, rule: string): Finding[] =>
  lookOver(song).filter((f) => f.rule === rule);
const cc = (tick: number, controller: number, value: number, channel = 0): EventValue =>
  channelEvent(tick, 0xb0 | channel, controller, value);

it('a sound song has no findings', () => {
  expect(lookOver(songOf(map, part(0), part(1), part(2)))).toEqual([]);
});

describe('names', () => {
  it.each([
    ['', true],
    ['Track 3', true],
    ['7', true],
    ['Inst 12', true],
    ['MIDI 01', true],
    ['Violin 2', false],
    ['808', true],
    ['Take 5 brass', false],
  ])('“%s” is no name: %s', (text, expected) => {
    expect(found(songOf(map, part(0, text)), 'unnamed').length > 0).toBe(expected);
  });

  it('are offered from the first program', () => {
    expect(found(songOf(map, part(2, '')), 'unnamed')[0]!.settle[0]!.settings).toEqual({
      name: 'Marimba',
    });
  });
});

describe('velocity', () => {
  const flat = (notes: number, spread = 0): EventValue[] => [
    name('Flat'),
    ...Array.from({ length: notes }, (_, i) => [
      channelEvent(i * 96, 0x90, 60 + (i % 3), 64 + (i % (spread + 1))),
      channelEvent(i * 96 + 50, 0x80, 60 + (i % 3), 0),
    ]).flat(),
  ];

  it.each([
    [8, 0, true],
    [7, 0, false],
    [40, 2, true],
    [20, 2, false],
    [40, 10, false],
  ])('%i notes with a spread of %i are told: %s', (notes, spread, expected) => {
    expect(found(songOf(map, flat(notes, spread)), 'one-velocity').length > 0).toBe(expected);
  });
});

describe('controllers', () => {
  it('of another instrument are named; volume, pan, expression and the pedals are not', () => {
    const [finding] = found(
      songOf(map, [
        ...part(0),
        cc(0, 91, 90),
        cc(0, 74, 3),
        cc(0, 7, 100),
        cc(0, 10, 64),
        cc(0, 64, 0),
      ]),
      'foreign-controllers',
    );
    expect(finding!.settle[0]!.settings).toEqual({ controllers: [74, 91] });
  });

  it('of an NRPN go with their data entry, unless a registered parameter may need it', () => {
    const nrpn = [cc(0, 99, 1), cc(0, 98, 8), cc(0, 6, 64)];
    expect(
      found(songOf(map, [...part(0), ...nrpn]), 'foreign-controllers')[0]!.settle[0]!.settings,
    ).toEqual({ controllers: [6, 38, 96, 97, 98, 99] });
    expect(
      found(
        songOf(map, [...part(0), ...nrpn, cc(0, 101, 0), cc(0, 100, 0), cc(0, 6, 12)]),
        'foreign-controllers',
      )[0]!.settle[0]!.settings,
    ).toEqual({ controllers: [98, 99] });
  });

  it('left down or off centre at the end are told with their bar', () => {
    const left = found(
      songOf(map, [...part(0), cc(400, 64, 127), channelEvent(500, 0xe0, 0, 70)]),
      'left-hanging',
    );
    expect(left.map((f) => [f.count, f.bars])).toEqual([[2, { from: 2, to: 2 }]]);
    expect(
      found(
        songOf(map, [
          ...part(0),
          cc(400, 64, 127),
          cc(450, 64, 0),
          channelEvent(500, 0xe0, 0, 70),
          channelEvent(510, 0xe0, 0, 64),
        ]),
        'left-hanging',
      ),
    ).toEqual([]);
  });

  it('flood at more than 25 values a second (a tick is 5.208 ms at 120 BPM and 96 PPQ)', () => {
    const lane = (every: number): EventValue[] => [
      ...part(0),
      ...Array.from({ length: 300 }, (_, i) => cc(i * every, 11, i % 128)),
    ];
    expect(found(songOf(map, lane(7)), 'floods')).toHaveLength(1);
    expect(found(songOf(map, lane(8)), 'floods')).toEqual([]);
  });
});

describe('channels and programs', () => {
  it('two parts of different programs on one channel are told, of the same program not', () => {
    const other = part(0, 'Other', 70).map((e) => (e.status === 0xc0 ? { ...e, data1: 40 } : e));
    expect(found(songOf(map, part(0), other), 'shared-channel')[0]!.settle[0]).toMatchObject({
      operation: 'tracks.channel',
      scope: { tracks: ['t2', 't3'] },
    });
    expect(found(songOf(map, part(0), part(0, 'Other', 70)), 'shared-channel')).toEqual([]);
  });

  it('a program change behind the first note is told with its bar, one before it not', () => {
    expect(
      found(songOf(map, [...part(0), channelEvent(800, 0xc0, 3)]), 'programs-inside').map(
        (f) => f.bars,
      ),
    ).toEqual([{ from: 3, to: 3 }]);
    expect(found(songOf(map, [...part(0), channelEvent(0, 0xc0, 3)]), 'programs-inside')).toEqual(
      [],
    );
  });

  it('a track of several channels and an empty one are told', () => {
    expect(
      found(songOf(map, [...part(0), ...part(1)]), 'several-channels').map((f) => f.count),
    ).toEqual([2]);
    expect(
      found(songOf(map, part(0), [name('Nothing')]), 'empty-tracks').map((f) => f.tracks),
    ).toEqual([['t3']]);
    expect(
      found(
        songOf(map, part(0), [name('Words'), metaEvent(0, meta.lyric, encodeText('la'))]),
        'empty-tracks',
      ),
    ).toEqual([]);
  });
});

describe('the tempo map', () => {
  it('is untidy with tempos in other tracks or stated again', () => {
    const tempo = (tick: number, byte: number): EventValue =>
      metaEvent(tick, meta.tempo, Uint8Array.of(7, byte, 0x20));
    expect(
      found(songOf(map, [...part(0), tempo(384, 0xb0)]), 'untidy-timing').map((f) => f.count),
    ).toEqual([1]);
    expect(
      found(songOf([...map, tempo(384, 0xa1)], part(0)), 'untidy-timing').map((f) => f.count),
    ).toEqual([1]);
    expect(
      found(songOf([...map, tempo(384, 0xb0), tempo(768, 0xa1)], part(0)), 'untidy-timing'),
    ).toEqual([]);
  });
});

describe('notes out of place', () => {
  const many = (from: number, count: number, key = 60, every = 96): EventValue[] =>
    Array.from({ length: count }, (_, i) => [
      channelEvent(from + i * every, 0x90, key + (i % 5), 40 + ((i * 7) % 60)),
      channelEvent(from + i * every + 80, 0x80, key + (i % 5), 64),
    ]).flat();

  it('a note 64 quarters behind the rest is a stray, unless others play there', () => {
    const stray = [name('Flute'), ...many(0, 40), ...many(39 * 96 + 64 * 96, 1)];
    const [finding] = found(songOf(map, stray), 'strays');
    expect(finding).toMatchObject({
      count: 1,
      bars: { from: 26, to: 26 },
      settle: [{ operation: 'notes.remove', scope: { bars: { from: 26, to: 26 } } }],
    });
    expect(found(songOf(map, stray, [name('Oboe'), ...many(103 * 96, 10)]), 'strays')).toEqual([]);
    expect(
      found(songOf(map, [name('Flute'), ...many(0, 40), ...many(39 * 96 + 63 * 96, 1)]), 'strays'),
    ).toEqual([]);
  });

  it('a few notes more than an octave below the music, low on the keyboard, look like key switches; on the drum channel they do not', () => {
    const switched = [name('Strings'), ...many(0, 20), ...many(0, 2, 24)];
    expect(found(songOf(map, switched), 'key-switches')[0]!.settle.map((s) => s.settings)).toEqual([
      { lowestKey: 24, highestKey: 25 },
      { key: 26, along: false },
    ]);
    expect(
      found(
        songOf(map, [
          name('Kit'),
          ...switched.slice(1).map((e) => ({ ...e, status: e.status | 9 })),
        ]),
        'key-switches',
      ),
    ).toEqual([]);
    expect(
      found(songOf(map, [name('Bass'), ...many(0, 20, 40), ...many(0, 2, 31)]), 'key-switches'),
    ).toEqual([]);
  });

  it('a flute in chords sounds more notes than it has, legato does not', () => {
    const chords = (overlap: number): EventValue[] => [
      name('Flute'),
      channelEvent(0, 0xc0, 73),
      ...Array.from({ length: 12 }, (_, i) => [
        channelEvent(i * 96, 0x90, 60 + i, 50 + i),
        channelEvent(i * 96 + 96 + overlap, 0x80, 60 + i, 64),
      ]).flat(),
    ];
    // A tick is 5.2 ms here: 40 ticks are 208 ms, 10 ticks 52 ms.
    expect(found(songOf(map, chords(40)), 'too-many-voices').map((f) => f.count)).toEqual([11]);
    expect(found(songOf(map, chords(10)), 'too-many-voices')).toEqual([]);
  });

  it('a part late by the same amount throughout is told with that amount; a played part is not', () => {
    expect(
      found(songOf(map, [name('Late'), ...many(7, 40, 60, 24)]), 'off-the-grid')[0]!.settle[0]!
        .settings,
    ).toEqual({ ticks: -7 });
    expect(
      found(songOf(map, [name('Early'), ...many(96 - 5, 40, 60, 24)]), 'off-the-grid')[0]!
        .settle[0]!.settings,
    ).toEqual({ ticks: 5 });
    const played = many(0, 40).map((e, i) => ({ ...e, atTick: e.atTick + ((i >> 1) % 3) }));
    expect(found(songOf(map, [name('Played'), ...played]), 'off-the-grid')).toEqual([]);
    expect(
      found(songOf(map, [name('Free'), ...many(0, 60, 60, 96 + 7)]), 'off-the-grid').map(
        (f) => f.title,
      ),
    ).toEqual(['Free follows no grid']);
  });

  it('rest before the music is told, and nothing is offered against it', () => {
    expect(found(songOf(map, [name('Flute'), ...many(768, 8)]), 'gap-before')).toMatchObject([
      { bars: { from: 1, to: 2 }, settle: [] },
    ]);
    expect(found(songOf(map, [name('Flute'), ...many(380, 8)]), 'gap-before')).toEqual([]);
  });
});

describe('lanes', () => {
  it('turned down make silent notes, a fade at the end and a swell do not', () => {
    expect(
      found(songOf(map, [...part(0), cc(190, 7, 0)]), 'turned-down').map((f) => [f.count, f.bars]),
    ).toEqual([[8, { from: 1, to: 1 }]]);
    expect(found(songOf(map, [...part(0), cc(0, 7, 100), cc(800, 7, 0)]), 'turned-down')).toEqual(
      [],
    );
    expect(
      found(
        songOf(map, [
          ...part(0),
          ...Array.from({ length: 10 }, (_, i) => [
            cc(i * 96, 11, 0),
            cc(i * 96 + 20, 11, 90),
          ]).flat(),
        ]),
        'turned-down',
      ),
    ).toEqual([]);
  });

  it('overridden at once, moved in rests or after the end are not heard', () => {
    const rests = [...part(0), ...Array.from({ length: 20 }, (_, i) => cc(1000 + i, 11, i))];
    expect(found(songOf(map, rests), 'unheard-values').map((f) => f.count)).toEqual([20]);
    expect(
      found(
        songOf(map, [...part(0), ...Array.from({ length: 20 }, (_, i) => cc(96, 11, i))]),
        'unheard-values',
      ).map((f) => f.count),
    ).toEqual([19]);
    expect(
      found(
        songOf(map, [...part(0), ...Array.from({ length: 20 }, (_, i) => cc(i * 40, 11, i))]),
        'unheard-values',
      ),
    ).toEqual([]);
  });

  it('that never leave the usual value are told, one statement of it is not', () => {
    expect(
      found(
        songOf(map, [...part(0), cc(0, 10, 64), cc(100, 10, 64), cc(200, 10, 64)]),
        'constant-lanes',
      ).map((f) => f.count),
    ).toEqual([3]);
    expect(found(songOf(map, [...part(0), cc(0, 10, 64)]), 'constant-lanes')).toEqual([]);
  });

  it('bends want their range (registered parameter 0), banks want a program', () => {
    const bent = [...part(0), channelEvent(10, 0xe0, 0, 80), channelEvent(20, 0xe0, 0, 64)];
    expect(found(songOf(map, bent), 'bend-range').map((f) => f.count)).toEqual([2]);
    expect(
      found(songOf(map, [...bent, cc(0, 101, 0), cc(0, 100, 0), cc(0, 6, 12)]), 'bend-range'),
    ).toEqual([]);
    expect(
      found(songOf(map, [cc(0, 0, 1), ...part(0).filter((e) => e.status !== 0xc0)]), 'bank-alone'),
    ).toHaveLength(1);
    expect(found(songOf(map, [cc(0, 0, 1), ...part(0)]), 'bank-alone')).toEqual([]);
  });

  it('of a parked kind are not seen', () => {
    const song = songOf(map, [...part(0), cc(190, 7, 0)]);
    expect(
      found(
        { ...song, tracks: song.tracks.map((t, i) => (i === 1 ? { ...t, parked: ['0:7'] } : t)) },
        'turned-down',
      ),
    ).toEqual([]);
  });

  it('system exclusive is told', () => {
    expect(
      found(
        songOf(map, [
          ...part(0),
          { atTick: 0, status: 0xf0, data1: 0, data2: 0, payload: Uint8Array.of(0x7e, 0xf7) },
        ]),
        'system-exclusive',
      ),
    ).toHaveLength(1);
  });
});

describe('bar lines and the end', () => {
  const at = (tick: number, type: number, ...bytes: number[]): EventValue =>
    metaEvent(tick, type, Uint8Array.from(bytes));

  it('a marker 5 ticks beside the bar line is told and goes there; one on the beat is meant', () => {
    expect(
      found(songOf([...map, at(389, meta.marker, 65)], part(0)), 'markers-off-bar').map(
        (f) => f.bars,
      ),
    ).toEqual([{ from: 2, to: 2 }]);
    expect(
      found(
        songOf([...map, at(384, meta.marker, 65), at(480, meta.marker, 66)], part(0)),
        'markers-off-bar',
      ),
    ).toEqual([]);
  });

  it('a meter inside a bar is told; one a hair off can be brought to the line', () => {
    expect(
      found(songOf([...map, at(576, meta.timeSignature, 3, 2, 24, 8)], part(0)), 'meters-in-bar'),
    ).toMatchObject([{ settle: [] }]);
    expect(
      found(
        songOf([...map, at(390, meta.timeSignature, 3, 2, 24, 8)], part(0)),
        'meters-in-bar',
      )[0]!.settle,
    ).toHaveLength(1);
    expect(
      found(
        songOf(
          [
            ...map,
            at(384, meta.timeSignature, 3, 2, 24, 8),
            at(384 + 288, meta.timeSignature, 4, 2, 24, 8),
          ],
          part(0),
        ),
        'meters-in-bar',
      ),
    ).toEqual([]);
  });

  it('an end eight bars behind everything is told', () => {
    expect(
      found(songOf([...map, metaEvent(384 * 20, meta.endOfTrack)], part(0)), 'late-end').map(
        (f) => [f.count, f.settle[0]!.settings],
      ),
    ).toEqual([[17, { bars: 3 }]]);
    expect(found(songOf(map, part(0)), 'late-end')).toEqual([]);
  });
});

describe('issue 10: judged like a musician', () => {
  const bank = (tick: number, value: number) => cc(tick, 0, value);
  const program = (tick: number, number: number) => channelEvent(tick, 0xc0, number);

  it('a program that restates the one in force, bank and all, is no change; another bank is', () => {
    expect(
      found(songOf(map, [...part(0), program(400, 10), program(800, 10)]), 'programs-inside'),
    ).toEqual([]);
    expect(
      found(songOf(map, [...part(0), bank(400, 0), program(400, 10)]), 'programs-inside'),
    ).toEqual([]);
    expect(
      found(songOf(map, [...part(0), bank(400, 8), program(400, 10)]), 'programs-inside').map(
        (f) => f.count,
      ),
    ).toEqual([1]);
    // A bank without a program behind it changes nothing yet.
    expect(found(songOf(map, [...part(0), bank(400, 8)]), 'programs-inside')).toEqual([]);
  });

  it('to take all programs out is not offered where that takes a part its only one', () => {
    const late = part(0).filter((e) => e.status >> 4 !== 0xc);
    expect(found(songOf(map, [...late, program(400, 10)]), 'programs-inside')[0]!.settle).toEqual(
      [],
    );
    expect(
      found(songOf(map, [...part(0), program(400, 11)]), 'programs-inside')[0]!.settle.map(
        (s) => s.title,
      ),
    ).toEqual(['Keep the first only', 'Take all out']);
  });

  it('a meter that is stated again inside a bar is none', () => {
    const meter = (tick: number, numerator: number) =>
      metaEvent(tick, meta.timeSignature, Uint8Array.of(numerator, 2, 24, 8));
    expect(
      found(songOf([...map, meter(0, 4), meter(500, 4), meter(768, 3)], part(0)), 'meters-in-bar'),
    ).toEqual([]);
    expect(
      found(songOf([...map, meter(0, 4), meter(500, 3)], part(0)), 'meters-in-bar'),
    ).toHaveLength(1);
  });

  it('a part without a program is not one with another', () => {
    const none = part(0, 'Second', 70).filter((e) => e.status >> 4 !== 0xc);
    expect(found(songOf(map, part(0), none, part(1)), 'shared-channel')).toEqual([]);
    const other = part(0, 'Second', 70).map((e) =>
      e.status >> 4 === 0xc ? { ...e, data1: 90 } : e,
    );
    expect(found(songOf(map, part(0), other, part(1)), 'shared-channel')).toHaveLength(1);
  });

  it('velocities are flat where 95 of 100 notes have one', () => {
    const with5 = (others: number) => [
      name('Flat'),
      ...Array.from({ length: 100 }, (_, i) => [
        channelEvent(i * 96, 0x90, 60, i < others ? 20 + i * 15 : 100),
        channelEvent(i * 96 + 50, 0x80, 60, 0),
      ]).flat(),
    ];
    expect(found(songOf(map, with5(5)), 'one-velocity').map((f) => f.title)).toEqual([
      '95 of the 100 notes of Flat have velocity 100',
    ]);
    expect(found(songOf(map, with5(6)), 'one-velocity')).toEqual([]);
  });
});
