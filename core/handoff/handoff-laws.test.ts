import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleCount, scaleRuns } from '../../tests/support/scale.ts';
import { busySong } from '../../tests/support/busy-song.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { metByNotes } from '../../tests/support/instrument-state.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { runStep } from '../operations/run.ts';
import { readSmf } from '../smf/read.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { sentSong } from '../song/lanes.ts';
import type { Song } from '../song/song.ts';
import { makeFile, planHandoff, type Handoff } from './handoff.ts';
import type { HandoffAsked } from './settings.ts';
import { divisions, fileNameStyles, textForms } from './settings.ts';
import { markForms } from './take-settings.ts';

/** All files of a handoff; none where the settings are refused, with why. */
function made(song: Song, asked: HandoffAsked): { files: Handoff[]; refused?: string } {
  const planned = planHandoff(song, asked);
  if (!planned.ok) return { files: [], refused: planned.problem.code };
  const before = { received: song, asRead: song };
  const files = planned.value.plan.files.map((file) => {
    const one = makeFile(planned.value, file, before);
    if (!one.ok) throw new Error(JSON.stringify(one.problem));
    return one.value;
  });
  return { files };
}

function songOfBytes(bytes: Uint8Array): Song {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  expect(reading.value.problems).toEqual([]);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
}

const anyFile: fc.Arbitrary<Song> = smfFile().map((smf) => songOfReading(writeSmf(smf)));
const songOfReading = (bytes: Uint8Array): Song => {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
};

const withSections = (songs: fc.Arbitrary<Song>): fc.Arbitrary<Song> =>
  fc
    .tuple(
      songs,
      fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 2 })), {
        maxLength: 3,
      }),
    )
    .map(([song, list]) =>
      list.reduce((s, [bar, more], n) => {
        const settings = { name: `Part ${n}`, bar, lastBar: bar + more };
        const named = runStep(s, {
          operation: 'timing.section',
          settings,
          scope: { tracks: 'all' },
        });
        return named.ok ? named.value.song : s;
      }, song),
    );

const kinds = [
  'tempo',
  'meters',
  'keys',
  'programs',
  'volume',
  'controllers',
  'bend',
  'pressure',
  'exclusive',
  'ports',
  'trackNames',
  'texts',
  'sections',
  'lyrics',
  'specific',
  'timecode',
  'copyright',
  'pan',
  'reverb',
  'chorus',
  'instrumentNames',
] as const;

/** Settings of every kind at once; every other track is chosen in some. */
const settings = fc
  .record({
    divide: fc.constantFrom(...divisions),
    bars: fc.option(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 3 })), {
      nil: undefined,
    }),
    notes: fc.constantFrom('cut' as const, 'keep' as const, 'again' as const),
    leadIn: fc.boolean(),
    repeat: fc.constantFrom(1, 1, 1, 2, 3),
    start: fc.constantFrom('in its place' as const, 'with its first note' as const),
    end: fc.constantFrom('as it is' as const, 'at the bar' as const),
    tempo: fc.constantFrom(
      'as it is' as const,
      'as it is' as const,
      'one, as it sounds' as const,
      'one, in its bars' as const,
    ),
    ppq: fc.constantFrom(null, null, 480, 24, 97),
    format: fc.constantFrom('as-received' as const, 0 as const, 1 as const, 'karaoke' as const),
    drums: fc.constantFrom('as they are' as const, 'each its own track' as const),
    tracks: fc.constantFrom('as they are' as const, 'one' as const),
    channels: fc.constantFrom('as they are' as const, 'as they are' as const, 'one each' as const, [
      { track: 't2', channel: 3 },
    ]),
    markers: fc.constantFrom(...markForms),
    text: fc.constantFrom(...textForms),
    longestName: fc.constantFrom(null, null, 4, 12),
    longestMark: fc.constantFrom(null, null, 6),
    fileNames: fc.constantFrom(...fileNameStyles),
    names: fc.constantFrom(
      undefined,
      undefined,
      '{song} {nn} {track}',
      '{section}, {bpm} ({version})',
      'Ré {key} {instrument} {track}',
    ),
    ending: fc.constantFrom(null, null, '.MIDI'),
    bpm: fc.constantFrom(null, null, 97),
    steps: fc.constantFrom(null, null, { error: 2 }, { error: 1, perSecond: 4 }),
    language: fc.constantFrom('', 'ENGL'),
    runningStatus: fc.boolean(),
    chunks: fc.boolean(),
    without: fc.constantFrom<number[]>([], [], [1, 64]),
    out: fc.subarray([...kinds], { maxLength: 3 }),
    some: fc.option(fc.integer({ min: 0, max: 1 }), { nil: undefined }),
  })
  .map(({ bars, notes, leadIn, some, out, divide, repeat, names, ...rest }) => {
    const { channels, markers, without, ...form } = rest;
    return {
      some,
      asked: {
        divide,
        repeat,
        ...(names === undefined ? {} : { names }),
        ...(bars ? { scope: { bars: { from: bars[0], to: bars[0] + bars[1] } } } : {}),
        edges: { notes, leadIn },
        form,
        take: {
          channels,
          markers,
          without,
          ...Object.fromEntries(out.map((kind) => [kind, false])),
        },
        ...(divide === 'groups'
          ? {
              groups: [
                { name: 'One', tracks: ['t2'] },
                { name: 'Others', tracks: ['t1', 't3'] },
              ],
            }
          : {}),
      } satisfies HandoffAsked,
    };
  });

type State = [[number, number][], unknown, unknown, unknown, unknown, number?, number?];

/**
 * Notes with what they met, without what is at rest: nothing held, bent, pressed or turned up, which an
 * instrument begins with.
 */
const met = (lines: readonly string[]): { tick: number; says: string }[] =>
  lines.map((line) => {
    const [, channel, tick, key, words] = /^(\d+) (\d+) (\d+): (.*)$/.exec(line)!;
    const [controllers, parameters, high, low, program, bend, pressure] = JSON.parse(
      words!,
    ) as State;
    const held = controllers.filter(
      ([n, value]) => !(n === 1 && value === 0) && !(n >= 64 && n <= 69 && value < 64),
    );
    const rest = [bend === 8192 ? null : bend, pressure === 0 ? null : pressure];
    return {
      tick: Number(tick),
      says: `${channel} ${key} ${JSON.stringify([held, parameters, high, low, program, rest])}`,
    };
  });

describe('any part of a song in any division and form', () => {
  it.each([
    ['songs that are music', madeSong, 101],
    ['any valid file', anyFile, 102],
  ] as const)(
    '%s: every event is the one the settings say, each note meets what it met, and the file reads back',
    { timeout: 240_000 },
    (_, songs, seed) => {
      let files = 0;
      fc.assert(
        fc.property(withSections(songs), settings, (song, { some, asked }) => {
          const tracks = song.tracks.filter((_t, i) => i % 2 === some).map((t) => t.id);
          const handed = made(song, some === undefined ? asked : { ...asked, tracks });
          for (const { proof } of handed.files) expect(proof).toMatchObject({ differences: [] });
          files += handed.files.length;
        }),
        { seed, numRuns: scaleRuns(1200) },
      );
      expect(files).toBeGreaterThan(scaleCount(300));
    },
  );

  it('a scope from the middle has in force at each note what the whole song had there, by an instrument of the tests', () => {
    fc.assert(
      fc.property(
        busySong,
        fc.integer({ min: 1, max: 3 }),
        fc.boolean(),
        fc.boolean(),
        (short, bar, alone, keep) => {
          // Quarters as bars, so that a song of one has several.
          const stepped = runStep(short, {
            operation: 'timing.meter',
            settings: { bar: 1, numerator: 1, denominator: '4' },
            scope: { tracks: 'all' },
          });
          if (!stepped.ok) throw new Error(stepped.problem.code);
          const { song } = stepped.value;
          const tracks = alone ? [song.tracks.at(-1)!.id] : song.tracks.map((t) => t.id);
          const { files } = made(song, {
            tracks,
            scope: { bars: { from: bar, to: bar + 1 } },
            edges: { notes: keep ? 'keep' : 'cut' },
          });
          const [from, to] = [(bar - 1) * 96, (bar + 1) * 96];
          const there = met(metByNotes(sentSong(song), new Set(tracks), false))
            .filter(({ tick }) => tick >= from && tick < to)
            .map(({ tick, says }) => `${tick - from} ${says}`);
          for (const { bytes } of files)
            expect(
              met(metByNotes(songOfBytes(bytes))).map(({ tick, says }) => `${tick} ${says}`),
            ).toEqual(there);
        },
      ),
      { seed: 17, numRuns: scaleRuns(600) },
    );
  });
});
