import { describe, expect, it } from 'vitest';
import { proveWith } from '../../../tests/support/proving.ts';
import { controller, note, songOf, take } from '../../../tests/support/songs.ts';
import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import {
  channelEvent,
  eventValues,
  metaEvent,
  SYSEX,
  type Events,
  type EventValue,
} from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { withEvents, type Song } from '../../song/song.ts';
import type { HandoffAsked } from '../settings.ts';

/**
 * Faults of a maker, planted one by one: the proof has to catch each and to say where. What is expected is
 * worked out by hand: SMF 1.0 and MIDI 1.0 say what each event is.
 */
const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));
const exclusive = (tick: number, ...bytes: number[]): EventValue => ({
  atTick: tick,
  status: SYSEX,
  data1: 0,
  data2: 0,
  payload: Uint8Array.of(...bytes, 0xf7),
});
const tempo = (tick: number, us: number): EventValue =>
  metaEvent(tick, 0x51, Uint8Array.of(us >> 16, (us >> 8) & 255, us & 255));

/** Four bars at 96 PPQ with one or more of every kind of event, none of them at the edge of bars 2 and 3. */
const map: EventValue[] = [
  text(0, 3, 'Map'),
  metaEvent(0, 0x54, Uint8Array.of(0x21, 0, 0, 0, 0)),
  tempo(0, 500_000),
  metaEvent(0, 0x58, Uint8Array.of(4, 2, 24, 8)),
  metaEvent(0, 0x59, Uint8Array.of(2, 0)),
  text(0, 2, '© Nobody'),
  text(0, 6, 'Verse'),
  tempo(480, 400_000),
  text(500, 6, 'Turn'),
  text(510, 7, 'Door'),
  metaEvent(576, 0x59, Uint8Array.of(3, 0)),
  metaEvent(768, 0x58, Uint8Array.of(3, 2, 24, 8)),
  text(768, 6, 'Verse (end)'),
  metaEvent(1536, 0x2f),
];
const violin: EventValue[] = [
  text(0, 3, 'Violin solo A'),
  text(0, 4, 'Violin'),
  text(0, 8, 'Strings'),
  text(0, 9, 'Desk'),
  metaEvent(0, 0x20, Uint8Array.of(0)),
  metaEvent(0, 0x21, Uint8Array.of(0)),
  controller(0, 0, 1),
  channelEvent(0, 0xc0, 40),
  controller(0, 7, 90),
  controller(0, 10, 50),
  controller(0, 91, 30),
  controller(0, 93, 20),
  controller(0, 101, 0),
  controller(0, 100, 0),
  controller(0, 6, 12),
  ...note(10, 80, 60, 70),
  ...note(400, 80, 62, 71),
  controller(410, 64, 127),
  controller(420, 64, 0),
  channelEvent(430, 0xe0, 0, 80),
  channelEvent(440, 0xe0, 0, 64),
  channelEvent(450, 0xd0, 33),
  channelEvent(455, 0xd0, 0),
  channelEvent(460, 0xa0, 62, 44),
  exclusive(470, 0x7d, 1, 2),
  text(475, 5, 'la'),
  text(476, 1, 'slowly'),
  metaEvent(477, 0x7f, Uint8Array.of(0, 0, 9)),
  ...note(500, 40, 64, 72),
  ...note(700, 800, 65, 73),
  controller(1000, 1, 5),
];
const second: EventValue[] = [
  text(0, 3, 'Violin solo B'),
  channelEvent(0, 0xc1, 41),
  ...note(20, 30, 67, 80, 1),
  ...note(450, 60, 69, 81, 1),
  ...note(900, 60, 71, 82, 1),
];
const kit: EventValue[] = [
  text(0, 3, 'Kit'),
  ...note(0, 20, 36, 100, 9),
  ...note(480, 20, 38, 101, 9),
  ...note(860, 20, 36, 102, 9),
];
const song: Song = {
  ...songOf(map, violin, second, kit),
  alienChunks: [{ beforeTrack: 4, id: 'XTRA', body: Uint8Array.of(1, 2, 3) }],
};
const middle: HandoffAsked = { scope: { bars: { from: 2, to: 3 } } };

const inTrack = (of: Song, n: number, change: (events: Events) => Events): Song => ({
  ...of,
  tracks: of.tracks.map((t, i) => (i === n ? withEvents(t, change(t.events)) : t)),
});
const without =
  (row: number) =>
  (events: Events): Events =>
    pickEvents(
      events,
      [...Array(events.count).keys()].filter((i) => i !== row),
    );
const isSaid = (differences: readonly string[]): boolean =>
  differences.length > 0 && differences.every((d) => /track \d|the file|no file|holds/.test(d));

/** Every row of the song but the ends of tracks, by track. */
const rows = [map, violin, second, kit].flatMap((events, track) =>
  eventValues(eventsFrom(events)).flatMap((event, row, all) =>
    row === all.length - 1 ? [] : [{ track, row, event }],
  ),
);
const called = ({ status, data1, atTick }: EventValue): string =>
  `${status.toString(16)} ${data1.toString(16)} at ${atTick}`;

describe('a song that leaves whole', () => {
  it('is proven where nobody planted anything', () => {
    expect(proveWith(song, {})).toEqual([]);
    expect(proveWith(song, middle)).toEqual([]);
  });

  it.each(rows.map((r) => [called(r.event), r] as const))(
    'lost its %s: that is said, with the place',
    (_, { track, row }) => {
      const found = proveWith(song, {}, { leaving: (s) => inTrack(s, track, without(row)) });
      expect(isSaid(found), found.join()).toBe(true);
    },
  );

  it.each(rows.map((r) => [called(r.event), r] as const))(
    'has its %s with another value: that is said',
    (_, { track, row, event }) => {
      const change = (events: Events): Events => {
        const values = eventValues(events);
        const payload = event.payload.slice();
        // The last letter, the last byte of a tempo, the numerator of a meter, the hour of a timecode.
        const at = event.data1 >= 0x54 && event.data1 <= 0x58 ? 0 : payload.length - 1;
        if (payload.length > 0) payload[at]! ^= 1;
        const data = event.status >= 0xc0 && event.status < 0xe0 ? 'data1' : 'data2';
        const other = payload.length > 0 ? { payload } : { [data]: event[data] ^ 1 };
        values[row] = { ...values[row]!, ...other };
        return eventsFrom(values);
      };
      const found = proveWith(song, {}, { leaving: (s) => inTrack(s, track, change) });
      expect(isSaid(found), found.join()).toBe(true);
    },
  );
});

describe('two bars of a song', () => {
  // The section began before them, so its end is not among them.
  const between = rows.filter(
    ({ event }) =>
      event.atTick > 384 && event.atTick < 1056 && !(event.atTick === 768 && event.data1 === 6),
  );
  it.each(between.map((r) => [called(r.event), r] as const))(
    'lost their %s, or have it elsewhere: that is said',
    (_, { track, event }) => {
      const find = (events: Events): number =>
        eventValues(events).findIndex(
          (e) =>
            e.status === event.status && e.data1 === event.data1 && e.atTick === event.atTick - 384,
        );
      const gone = { leaving: (s: Song) => inTrack(s, track, (e) => without(find(e))(e)) };
      expect(isSaid(proveWith(song, middle, gone))).toBe(true);
      const moved = (events: Events): Events => {
        const values = eventValues(events);
        values[find(events)] = { ...values[find(events)]!, atTick: event.atTick - 384 + 1 };
        return eventsFrom(values);
      };
      expect(isSaid(proveWith(song, middle, { leaving: (s) => inTrack(s, track, moved) }))).toBe(
        true,
      );
    },
  );

  it('names the bar of what is lacking', () => {
    // The note at tick 500 is 116 ticks into bar 2, so beat 2 and 20 ticks of the first bar that leaves.
    const lost = {
      leaving: (s: Song) =>
        inTrack(s, 1, (e) => {
          const row = eventValues(e).findIndex((v) => v.status === 0x90 && v.data1 === 64);
          return without(row)(e);
        }),
    };
    expect(proveWith(song, middle, lost)[0]).toBe(
      'track 2 lacks note 64 at velocity 72 on channel 1 at bar 1.2.20 (tick 116)',
    );
  });
});

const marked = (markers: 'none' | 'markers' | 'cue points' | 'texts'): HandoffAsked => {
  const kinds = { markers };
  return { take: kinds };
};

type Planned = Parameters<NonNullable<Parameters<typeof proveWith>[2]>['planned'] & object>[0];

/** A choice that a maker does not follow: made as the first, asked for as the second. */
const choices: readonly (readonly [name: string, made: HandoffAsked, asked: HandoffAsked])[] = [
  ...(
    [
      'tempo',
      'meters',
      'keys',
      'sections',
      'texts',
      'lyrics',
      'timecode',
      'copyright',
      'programs',
      'volume',
      'pan',
      'reverb',
      'chorus',
      'controllers',
      'bend',
      'pressure',
      'exclusive',
      'specific',
      'ports',
      'trackNames',
      'instrumentNames',
    ] as const
  ).flatMap((kind) => [
    [`${kind} left out, and sent`, {}, { take: { [kind]: false } }] as const,
    [`${kind} asked for, and left out`, { take: { [kind]: false } }, {}] as const,
  ]),
  ['markers left out', {}, marked('none')],
  ['markers lost', marked('none'), {}],
  ['markers as cue points', {}, marked('cue points')],
  ['cue points as markers', {}, marked('markers')],
  ['markers as texts', {}, marked('texts')],
  ['a controller left out', {}, { take: { without: [64] } }],
  ['a channel by a list', {}, { take: { channels: [{ track: 't3', channel: 5 }] } }],
  ['format 0', {}, { format: 0 }],
  ['format 1', { format: 0 }, {}],
  ['karaoke order', {}, { format: 'karaoke' }],
  [
    'the language of the words',
    { format: 'karaoke' },
    { form: { format: 'karaoke', language: 'ENGL' } },
  ],
  ['no running status', middle, { ...middle, runningStatus: false }],
  ['running status', { ...middle, runningStatus: false }, middle],
  ['no other chunks', {}, { chunks: false }],
  ['other chunks', { chunks: false }, {}],
  ['another resolution', {}, { form: { ppq: 480 } }],
  ['the same resolution', { form: { ppq: 480 } }, {}],
  ['ASCII', {}, { form: { text: 'ASCII' } }],
  ['Latin-1', {}, { form: { text: 'Latin-1' } }],
  ['short names', {}, { form: { longestName: 8 } }],
  ['short marks', {}, { form: { longestMark: 3 } }],
  ['short file names', { names: 'A long file name' }, { form: { fileNames: '8.3' } }],
  [
    'file names of 16 letters',
    { names: 'A file name of many letters' },
    { form: { fileNames: '16' } },
  ],
  ['a pattern of names', {}, { names: '{song} for {track}' }],
  ['names by their track', { divide: 'tracks', names: '{nn}' }, { divide: 'tracks' }],
  ['names by their section', { divide: 'sections', names: '{nn}' }, { divide: 'sections' }],
  ['the number in names', { names: '1' }, { names: '{nn}' }],
  ['the tempo in names', { names: '{song} 121' }, { names: '{song} {bpm}' }],
  [
    'the version in names',
    { names: '{version}', version: 'a' },
    { names: '{version}', version: 'b' },
  ],
  ['each drum its own track', {}, { form: { drums: 'each its own track' } }],
  ['drums as they are', { form: { drums: 'each its own track' } }, {}],
  ['another ending', {}, { form: { ending: '.midi' } }],
  ['ends with a bar', {}, { form: { end: 'at the bar' } }],
  ['begins with its first note', middle, { ...middle, form: { start: 'with its first note' } }],
  ['one tempo, as it sounds', {}, { form: { tempo: 'one, as it sounds' } }],
  ['one tempo, in its bars', {}, { form: { tempo: 'one, in its bars' } }],
  [
    'that tempo',
    { form: { tempo: 'one, in its bars' } },
    { form: { tempo: 'one, in its bars', bpm: 97 } },
  ],
  ['the tempo map', { form: { tempo: 'one, in its bars' } }, {}],
  ['one track', {}, { form: { tracks: 'one' } }],
  ['notes cut', { ...middle, edges: { notes: 'keep' } }, middle],
  ['notes kept', middle, { ...middle, edges: { notes: 'keep' } }],
  [
    'notes struck again',
    { scope: { bars: { from: 3, to: 4 } } },
    { scope: { bars: { from: 3, to: 4 } }, edges: { notes: 'again' } },
  ],
  ['once', { ...middle, repeat: 2 }, middle],
  ['twice', middle, { ...middle, repeat: 2 }],
  ['three times', { ...middle, repeat: 2 }, { ...middle, repeat: 3 }],
  ['all tracks', { tracks: ['t2', 't3'] }, {}],
  ['some tracks', {}, { tracks: ['t2', 't3'] }],
  ['bars', {}, middle],
  ['other bars', middle, { scope: { bars: { from: 2, to: 4 } } }],
  ['whole, not each track', { divide: 'tracks' }, {}],
  ['a file a track', {}, { divide: 'tracks' }],
  ['a file a drum', { divide: 'tracks' }, { divide: 'drums' }],
  ['a file a section', {}, { divide: 'sections' }],
  ['a file a track of each section', { divide: 'sections' }, { divide: 'sections-tracks' }],
  ['the map alone', {}, { divide: 'map' }],
  ['groups', { divide: 'tracks' }, { groups: [{ name: 'All', tracks: ['t2', 't3'] }] }],
];

describe('a choice that is not followed', () => {
  it.each(choices)('%s: that is said', (_, made, asked) => {
    expect(proveWith(song, made)).toEqual([]);
    expect(proveWith(song, asked)).toEqual([]);
    const found = proveWith(song, made, {}, asked);
    expect(isSaid(found), found.join()).toBe(true);
  });

  it('a gradual change in fewer steps that is further off than was allowed', () => {
    const ramp = songOf([
      ...Array.from({ length: 64 }, (_, n) => tempo(n * 24, 500_000 + n * 3000)),
      ...note(0, 1600, 60),
    ]);
    const fine: HandoffAsked = { form: { steps: { error: 0.5 } } };
    const coarse: HandoffAsked = { form: { steps: { error: 20 } } };
    expect(proveWith(ramp, fine)).toEqual([]);
    expect(proveWith(ramp, coarse)).toEqual([]);
    expect(isSaid(proveWith(ramp, coarse, {}, fine))).toBe(true);
  });

  it('resets that stay here: a first program is said, and what was said before them holds where they are', () => {
    const reset = songOf(
      [channelEvent(0, 0xc0, 9), exclusive(0, 0x7e, 0x7f, 9, 1), metaEvent(900, 0x2f)],
      [...note(10, 80, 60), ...note(400, 80, 60)],
      [channelEvent(0, 0xc1, 0), ...note(10, 80, 60, 80, 1), ...note(400, 80, 60, 80, 1)],
    );
    const stay: HandoffAsked = { take: { exclusive: false } };
    expect(proveWith(reset, stay)).toEqual([]);
    expect(proveWith(reset, { ...stay, ...middle })).toEqual([]);
    expect(isSaid(proveWith(reset, { take: { programs: false } }, {}, stay))).toBe(true);
  });

  it('channels of their own', () => {
    const shared = songOf(map, [...note(0, 96, 60)], [...note(0, 96, 64)], kit);
    const each: HandoffAsked = { take: { channels: 'one each' } };
    expect(proveWith(shared, each)).toEqual([]);
    expect(isSaid(proveWith(shared, {}, {}, each))).toBe(true);
  });

  it('a program that is said again behind the reset it stood before', () => {
    // On one tick by the order of tracks: program 9, General MIDI on, then the parts that share the channel.
    const first = [channelEvent(0, 0xc0, 9), exclusive(0, 0x7e, 0x7f, 9, 1), ...note(0, 96, 60)];
    const reset = songOf(map, first, [...note(0, 96, 64)]);
    const each: HandoffAsked = { take: { channels: 'one each' } };
    expect(proveWith(reset, each)).toEqual([]);
    const again = (s: Song): Song =>
      inTrack(s, 2, (events) => eventsFrom([channelEvent(0, 0xc1, 9), ...eventValues(events)]));
    expect(isSaid(proveWith(reset, each, { leaving: again }))).toBe(true);
  });

  it('the lead-in, which stays where it is asked for', () => {
    const late = songOf([...note(800, 96, 60), metaEvent(1536, 0x2f)]);
    const short: HandoffAsked = { edges: { leadIn: false } };
    expect(proveWith(late, short)).toEqual([]);
    expect(isSaid(proveWith(late, short, {}, {}))).toBe(true);
    expect(isSaid(proveWith(late, {}, {}, short))).toBe(true);
  });

  it('a file that is called otherwise than was planned', () => {
    expect(proveWith(song, {}, { name: 'other.mid' })).toEqual(['the file is called other.mid']);
  });

  it('a word of a name that is lost in its middle', () => {
    const asked: HandoffAsked = { names: '{song} {key} for {track}', divide: 'tracks' };
    const renamed = (p: Planned): Planned => ({
      ...p,
      plan: {
        ...p.plan,
        files: p.plan.files.map((f) => ({ ...f, name: f.name.replace(' for ', ' ') })),
      },
    });
    expect(proveWith(song, asked)).toEqual([]);
    expect(proveWith(song, asked, { planned: renamed })[0]).toContain('is not called {song}');
  });

  it('two names that are cut to the same', () => {
    const asked: HandoffAsked = { form: { longestName: 8 } };
    const alike = (s: Song): Song =>
      [1, 2].reduce(
        (of, n) =>
          inTrack(of, n, (events) => {
            const values = eventValues(events);
            values[0] = text(0, 3, 'Violin');
            return eventsFrom(values);
          }),
        s,
      );
    expect(proveWith(song, asked)).toEqual([]);
    expect(isSaid(proveWith(song, asked, { leaving: alike }))).toBe(true);
  });
});

describe('what a handoff is divided into', () => {
  const divided: readonly HandoffAsked[] = [
    { divide: 'tracks' },
    { divide: 'drums' },
    { divide: 'sections' },
    { divide: 'sections-tracks' },
    { divide: 'map' },
    {
      groups: [
        { name: 'Strings', tracks: ['t2', 't3'] },
        { name: 'Drums', tracks: ['t4'] },
      ],
    },
  ];
  const planted = (change: (files: readonly Files[number][]) => readonly Files[number][]) => ({
    planned: (p: Planned): Planned => ({ ...p, plan: { ...p.plan, files: change(p.plan.files) } }),
  });
  type Files = Planned['plan']['files'];

  it.each(divided.map((asked) => [asked.divide ?? 'groups', asked] as const))(
    '%s: a file too many, of other bars or other tracks is said',
    (_, asked) => {
      expect(proveWith(song, asked)).toEqual([]);
      const [first] = [{ name: 'more.mid', tracks: new Set(['t2', 't3', 't4']) }];
      expect(
        isSaid(
          proveWith(
            song,
            asked,
            planted((f) => [...f, first]),
          ),
        ),
      ).toBe(true);
      const later = planted((f) => [{ ...f[0]!, span: { from: 384, to: 400 } }, ...f.slice(1)]);
      expect(isSaid(proveWith(song, asked, later))).toBe(true);
      const other = planted((f) => [{ ...f[0]!, tracks: new Set(['t4', 't2']) }, ...f.slice(1)]);
      expect(isSaid(proveWith(song, asked, other))).toBe(true);
    },
  );

  it.each([{ divide: 'tracks' }, { divide: 'drums' }, divided[5]!] as HandoffAsked[])(
    '%o: a file that is missing, is called as another or is shorter than the song is said',
    (asked) => {
      expect(
        isSaid(
          proveWith(
            song,
            asked,
            planted((f) => f.slice(1)),
          ),
        ),
      ).toBe(true);
      const named = planted((f) => f.map((one) => ({ ...one, name: f[0]!.name })));
      expect(proveWith(song, asked, named).join()).toContain('two files have one name');
      const short = planted((f) => f.map(({ length, ...one }) => one));
      expect(proveWith(song, asked, short).join()).toContain('shorter than the song');
    },
  );

  it('a drum that was lost when a kit was split', () => {
    const lost = {
      planned: (p: Planned): Planned => ({
        ...p,
        plan: {
          ...p.plan,
          song: inTrack(p.plan.song, p.plan.song.tracks.length - 1, (events) =>
            without(eventValues(events).findIndex((e) => e.status === 0x99))(events),
          ),
        },
      }),
    };
    const found = proveWith(song, { divide: 'drums' }, lost);
    expect(found.join()).toContain('track 4 does not hold what it sends');
  });

  it('a lane that is parked and sent all the same', () => {
    const parked = take(song, 'controllers.park', { lanes: [64] }, { tracks: ['t2'] });
    const sent = {
      planned: (p: Planned): Planned => ({ ...p, plan: { ...p.plan, song } }),
    };
    expect(proveWith(parked.song, {})).toEqual([]);
    expect(proveWith(parked.song, {}, sent).join()).toContain('track 2 does not hold');
  });
});

describe('how a file is laid out', () => {
  const oneTrack: HandoffAsked = { format: 0 };
  const spoilt = (change: (events: Events) => Events) => ({
    laid: (smf: Parameters<NonNullable<Parameters<typeof proveWith>[2]>['laid'] & object>[0]) => ({
      ...smf,
      tracks: smf.tracks.map((t, n) => (n === 0 ? { events: change(t.events) } : t)),
    }),
  });
  const rowOf = (events: Events, status: number, data1: number): number =>
    eventValues(events).findLastIndex((e) => e.status === status && e.data1 === data1);

  it.each([
    ['a name', 0xff, 4],
    ['a prefix', 0xff, 0x20],
    ['a text', 0xff, 1],
    ['a lyric', 0xff, 5],
    ['a tempo', 0xff, 0x51],
    ['a note', 0x91, 69],
    ['a program', 0xc1, 41],
  ])('as one track lost %s: that is said', (_, status, data1) => {
    const lost = spoilt((e) => without(rowOf(e, status, data1))(e));
    expect(isSaid(proveWith(song, oneTrack, lost))).toBe(true);
  });

  it('as one track says a program behind its note on one tick: that is said', () => {
    const close = songOf(map, [channelEvent(96, 0xc0, 7), ...note(96, 40, 60)], second);
    const swapped = spoilt((events) => {
      const values = eventValues(events);
      const at = rowOf(events, 0xc0, 7);
      [values[at], values[at + 1]] = [values[at + 1]!, values[at]!];
      const packed = eventsFrom(values);
      expect(eventValues(packed)[at]!.status).toBe(0x90);
      return packed;
    });
    expect(proveWith(close, oneTrack)).toEqual([]);
    expect(isSaid(proveWith(close, oneTrack, swapped))).toBe(true);
  });
});
