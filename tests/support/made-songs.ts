import fc from 'fast-check';
import { eventsFrom } from '#core/smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import type { Scope } from '#core/song/scope.ts';
import type { Song, Track } from '#core/song/song.ts';
import { songOf } from './songs.ts';

/**
 * Songs made at random that are music, as far as an operation can tell: 96 PPQ, a map with several meters
 * and tempos, and parts with paired, overlapping and hanging notes, lanes, programs, ports and names. What
 * any valid file may hold beside it is in `generate.ts`.
 */
const quarter = 96;
const length = 20 * quarter;
const seven = fc.integer({ min: 0, max: 127 });
const grid = fc.integer({ min: 0, max: length / 24 - 1 }).map((n) => n * 24);
/** On a sixteenth, or a hand's breadth beside it. */
const anywhere = fc
  .tuple(grid, fc.constantFrom(0, 0, 0, 3, -4, 7, 11))
  .map(([tick, off]) => Math.max(0, tick + off));
const sometimes = <T>(what: fc.Arbitrary<T>, weight = 1) =>
  fc.oneof({ weight: 2, arbitrary: fc.constant(undefined) }, { weight, arbitrary: what });

const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));
const tempo = (tick: number, bpm: number): EventValue => {
  const t = Math.round(60e6 / bpm);
  return metaEvent(tick, meta.tempo, Uint8Array.of(t >> 16, (t >> 8) & 255, t & 255));
};

/** Meters on bar lines of the meter before: each lasts two bars. */
function meters(tops: readonly number[]): EventValue[] {
  let tick = 0;
  return tops.map((top) => {
    const event = metaEvent(tick, meta.timeSignature, Uint8Array.of(top, 2, 24, 8));
    tick += top * quarter * 2;
    return event;
  });
}

const mapTrack = fc
  .record({
    tops: fc.array(fc.constantFrom(4, 4, 3, 2), { maxLength: 3 }),
    tempos: fc.array(fc.tuple(grid, fc.integer({ min: 60, max: 180 })), { maxLength: 3 }),
    ramp: sometimes(fc.tuple(grid, fc.integer({ min: 80, max: 120 }), fc.constantFrom(-1, 1))),
    marks: fc.array(
      fc.tuple(
        anywhere,
        fc.constantFrom('Verse', 'Chorus', 'Bridge'),
        fc.constantFrom(meta.marker, meta.marker, meta.cuePoint),
      ),
      { maxLength: 3 },
    ),
    // A marker a hair off a bar line, a meter that changes a hair off one, a tempo that is stated again.
    beside: sometimes(fc.integer({ min: 1, max: 3 })),
    late: sometimes(fc.constantFrom(3, -4)),
    again: fc.boolean(),
    key: sometimes(fc.integer({ min: -3, max: 3 })),
  })
  .map(({ tops, tempos, ramp, marks, beside, late, again, key }) => [
    text(0, meta.trackName, 'Map'),
    tempo(0, 120),
    ...meters(tops),
    ...tempos.map(([tick, bpm]) => tempo(tick, bpm)),
    ...(ramp
      ? Array.from({ length: 16 }, (_, n) => tempo(ramp[0] + n * 6, ramp[1] + n * ramp[2]))
      : []),
    ...marks.map(([tick, said, type]) => text(tick, type, said)),
    ...(beside === undefined ? [] : [text(16 * quarter + beside, meta.marker, 'Coda')]),
    ...(late === undefined
      ? []
      : [metaEvent(16 * quarter + late, meta.timeSignature, Uint8Array.of(5, 2, 24, 8))]),
    ...(again ? [tempo(4 * quarter, 120)] : []),
    // A chord line where tempos are said, of every song but a few.
    ...(late === undefined ? tempos : []).map(([tick], n) =>
      text(tick, meta.text, `chord: ${['Dm7', 'G7/B', 'N.C.'][n]}`),
    ),
    ...(key === undefined ? [] : [metaEvent(0, meta.keySignature, Uint8Array.of(key & 255, 0))]),
  ]);

/** Notes of one key end before the next of it begins, but for those that are meant to overlap or to hang. */
const notes = (channel: number, keys: readonly number[], flat: boolean) =>
  fc
    .array(
      fc.tuple(
        anywhere,
        fc.constantFrom(...keys),
        fc.oneof(
          { weight: 12, arbitrary: fc.integer({ min: 20, max: 127 }) },
          { weight: 1, arbitrary: fc.integer({ min: 1, max: 9 }) },
        ),
        fc.integer({ min: 6, max: 120 }),
        fc.constantFrom('paired', 'paired', 'paired', 'paired', 'paired', 'overlapping', 'hanging'),
      ),
      { minLength: 6, maxLength: 40 },
    )
    .map((list) => {
      const free = new Map<number, number>();
      return list
        .sort((a, b) => a[0] - b[0])
        .flatMap(([tick, key, velocity, long, kind]) => {
          const busy = free.get(key) ?? 0;
          if (kind === 'paired' && tick < busy) return [];
          free.set(key, Math.max(busy, tick + long));
          const on = channelEvent(tick, 0x90 | channel, key, flat ? 100 : velocity);
          return kind === 'hanging'
            ? [on]
            : [on, channelEvent(tick + long, 0x80 | channel, key, 64)];
        });
    });

/** A lane of one controller: what it begins with, and moves. */
const lane = (channel: number) =>
  fc
    .tuple(
      fc.constantFrom(1, 7, 10, 11, 11, 64, 74, 91),
      fc.array(fc.tuple(anywhere, seven, fc.integer({ min: 1, max: 3 })), { maxLength: 12 }),
      sometimes(seven),
    )
    .map(([number, moves, first]) => [
      ...(first === undefined ? [] : [channelEvent(0, 0xb0 | channel, number, first)]),
      // Some values are said again, and some a moment later by one more.
      ...moves.flatMap(([tick, value, times]) =>
        Array.from({ length: times }, (_, n) =>
          channelEvent(
            tick + n * 6,
            0xb0 | channel,
            number,
            Math.min(127, value + (value & 1) * n),
          ),
        ),
      ),
    ]);
const bends = (channel: number) =>
  fc
    .tuple(sometimes(fc.constantFrom(2, 12)), fc.array(fc.tuple(anywhere, seven), { maxLength: 8 }))
    .map(([range, moves]) => [
      ...(range === undefined
        ? []
        : [
            [101, 0],
            [100, 0],
            [6, range],
          ].map(([n, v]) => channelEvent(0, 0xb0 | channel, n!, v!))),
      ...moves.map(([tick, value]) => channelEvent(tick, 0xe0 | channel, 0, value)),
    ]);
const pressures = (channel: number, keys: readonly number[]) =>
  fc
    .array(fc.tuple(anywhere, fc.constantFrom(...keys), seven), { maxLength: 4 })
    .map((list) =>
      list.map(([tick, key, value]) => channelEvent(tick, 0xa0 | channel, key, value)),
    );
const sound = (channel: number) =>
  fc
    .tuple(sometimes(seven), seven, sometimes(fc.tuple(anywhere, seven)))
    .map(([bank, program, later]) => [
      ...(bank === undefined ? [] : [channelEvent(0, 0xb0 | channel, 0, bank)]),
      channelEvent(0, 0xc0 | channel, program, 0),
      ...(later ? [channelEvent(later[0], 0xc0 | channel, later[1], 0)] : []),
    ]);
const words = fc
  .array(fc.tuple(anywhere, fc.constantFrom('la', 'oh', 'hey')), { maxLength: 4 })
  .map((list) => list.map(([tick, said]) => text(tick, meta.lyric, said)));

/** What one channel plays. */
const playing = (channel: number) =>
  fc
    .boolean()
    .chain((flat) => {
      const keys = channel === 9 ? [36, 38, 42] : [21, 57, 60, 60, 62, 62, 64, 64, 72, 72];
      return fc.tuple(
        sometimes(sound(channel), 4),
        notes(channel, keys, flat),
        fc.array(lane(channel), { maxLength: 5 }),
        sometimes(bends(channel)),
        sometimes(pressures(channel, keys)),
      );
    })
    .map(([setUp, played, lanes, bent, pressed]) => [
      ...(setUp ?? []),
      ...played,
      ...lanes.flat(),
      ...(bent ?? []),
      ...(pressed ?? []),
    ]);

const channels = fc.constantFrom(0, 0, 1, 2, 9);
const partTrack = fc
  .record({
    name: sometimes(fc.constantFrom('Bass', 'Keys', 'Strings', 'Kit'), 6),
    channel: channels,
    other: sometimes(channels),
    port: sometimes(fc.constantFrom(0, 1)),
    sung: sometimes(words),
  })
  .chain(({ name, channel, other, port, sung }) =>
    fc
      .tuple(playing(channel), other === undefined ? fc.constant([]) : playing(other))
      .map(([first, second]) => [
        ...(name === undefined ? [] : [text(0, meta.trackName, name)]),
        ...(port === undefined ? [] : [metaEvent(0, meta.port, Uint8Array.of(port))]),
        ...(sung ?? []),
        ...first,
        ...second,
      ]),
  );

/**
 * Events as a file holds them: in order of time, note-offs before note-ons where they fall together, and
 * the end behind all.
 */
function trackOf(events: readonly EventValue[]): EventValue[] {
  const inOrder = events
    .map((event, n) => ({ event, n }))
    .sort((a, b) => a.event.atTick - b.event.atTick || rank(a.event) - rank(b.event) || a.n - b.n)
    .map(({ event }) => event);
  return [...inOrder, metaEvent(Math.max(length, inOrder.at(-1)?.atTick ?? 0), meta.endOfTrack)];
}
const rank = ({ status }: EventValue): number =>
  status === 0xff ? 0 : status >> 4 === 8 ? 1 : status >> 4 === 9 ? 3 : 2;

/** A part with a tempo of its own, which belongs into the first track; and a track that is empty but for its name. */
const astray = partTrack.map((events) => [...events, tempo(6 * quarter, 90)]);
const empty = fc.constant([text(0, meta.trackName, 'Spare')]);
const anyTrack = fc.oneof(
  { weight: 8, arbitrary: partTrack },
  { weight: 1, arbitrary: astray },
  { weight: 1, arbitrary: empty },
);

/** A song; in some of them the expression of parts is parked, and a few are in ticks of frames. */
export const madeSong: fc.Arbitrary<Song> = fc
  .tuple(
    mapTrack,
    partTrack,
    fc.array(anyTrack, { maxLength: 4 }),
    fc.boolean(),
    fc.integer({ min: 0, max: 9 }),
  )
  .map(([map, first, others, parks, kind]) => {
    const song = songOf(...[map, first, ...others].map((events) => eventsFrom(trackOf(events))));
    const timed =
      kind === 0
        ? { ...song, division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 8 } as const }
        : song;
    return parks ? { ...timed, tracks: timed.tracks.map(withExpressionParked) } : timed;
  });

function withExpressionParked(track: Track): Track {
  const first = track.events.status.findIndex(
    (s, i) => s >> 4 === 0xb && track.events.data1[i] === 11,
  );
  return first === -1 ? track : { ...track, parked: [`${track.events.status[first]! & 15}:11`] };
}

/** Some of a song's tracks, and some of its bars or all: for operations that obey them. */
export const scopeIn = (song: Song, withBars: boolean): fc.Arbitrary<Scope> =>
  fc
    .record({
      tracks: fc.oneof(
        fc.constant('all' as const),
        fc.subarray(
          song.tracks.map((t) => t.id),
          { minLength: 1 },
        ),
      ),
      ...(withBars
        ? {
            bars: sometimes(
              fc
                .tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 3 }))
                .map(([from, more]) => ({ from, to: from + more })),
            ),
          }
        : {}),
    })
    .map(({ tracks, bars }) => (bars ? { tracks, bars } : { tracks }));
