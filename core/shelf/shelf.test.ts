import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { readIndependently } from '../../tests/support/independent.ts';
import { demoGrooves } from '#demo/grooves.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import { runStep } from '../operations/run.ts';
import { sourceKey } from '../operations/sources.ts';
import { songsOfFile } from '#core/work/sources.ts';
import type { Song } from '../song/song.ts';
import { notesOf } from '../song/notes.ts';
import { cutClip } from './cut.ts';
import { clipFacts } from './facts.ts';
import { comesRound, kindOf, type ClipKind } from './kind.ts';

const songIn = (bytes: Uint8Array, fileName = 'clip.mid'): Song => {
  const read = songsOfFile({ bytes, fileName });
  if (!read.ok) throw new Error(read.problem.code);
  return read.value.songs[0]!;
};

/** Notes of a song by where they begin in quarters, their length there, key, velocity and channel. */
const heard = (song: Song, from = 0, tracks = song.tracks): string[] => {
  const ppq = song.division.kind === 'ppq' ? song.division.ticksPerQuarter : NaN;
  return tracks
    .flatMap(({ events }) => {
      const { count, on, off } = notesOf(events);
      return Array.from({ length: count }, (_, n) => {
        const [a, b] = [on[n]!, off[n]!];
        // To a thousandth: thirds of a quarter are no binary fractions.
        const quarter = (row: number): number =>
          Math.round((events.atTick[row]! / ppq - from) * 1000) / 1000;
        const [begin, end] = [quarter(a), quarter(b)];
        return `${begin} ${end} ${events.data1[a]} ${events.data2[a]} ${events.status[a]! & 15}`;
      });
    })
    .filter((n) => !n.startsWith('-'))
    .sort();
};

describe('kinds of clips', () => {
  const of = { drums: true, notes: 20, bars: 2, together: 1, ends: false };
  it.each<[string, Partial<typeof of>, ClipKind]>([
    ['Rock_Beat_01', {}, 'groove'],
    ['Tom fill 3', { bars: 2 }, 'fill'],
    ['Verse-ending', {}, 'ending'],
    ['04 pickup', {}, 'fill'],
    ['Bassline A', { drums: false }, 'line'],
    ['Rhodes comping', { drums: false }, 'chords'],
    // By its notes where its name says nothing.
    ['take 7', {}, 'groove'],
    ['take 7', { bars: 1 }, 'fill'],
    ['take 7', { ends: true }, 'ending'],
    ['take 7', { drums: false, together: 3.2 }, 'chords'],
    ['take 7', { drums: false, together: 1.1 }, 'line'],
    ['take 7', { notes: 0 }, 'other'],
    // A groove is played on drums.
    ['Main theme', { drums: false }, 'line'],
    ['Befriend', { drums: false }, 'line'],
  ])('%s %o: %s', (name, notes, kind) => expect(kindOf(name, { ...of, ...notes })).toBe(kind));

  it('what lies beneath others comes round, what happens once does not', () => {
    expect(
      ['groove', 'chords', 'fill', 'ending', 'line', 'other'].map((k) => comesRound(k as ClipKind)),
    ).toEqual([true, true, false, false, false, false]);
  });
});

describe('the grooves of the demo', () => {
  it('are 28 in four meters, each with the bars, meter and kind that its name says', () => {
    expect(demoGrooves.length).toBeGreaterThanOrEqual(24);
    const meters = new Set<string>();
    for (const { name, bytes } of demoGrooves) {
      const file = bytes();
      expect(readIndependently(file).tracks.length).toBe(2);
      const facts = clipFacts(songIn(file, name), name.replace('.mid', ''));
      meters.add(facts.meter);
      expect(facts.drums).toBe(true);
      expect(name).toContain(facts.kind);
      expect(facts.bars).toBe(facts.kind === 'fill' ? 1 : 2);
    }
    expect([...meters].sort()).toEqual(['3/4', '4/4', '6/8', '7/8']);
  });
});

describe('bars of a song as a clip', () => {
  // Program and volume in a track without notes; a damper that is down and a bend before bar 2.
  const song = songOf(
    [
      metaEvent(0, meta.tempo, Uint8Array.of(0x0a, 0x2c, 0x2b)),
      channelEvent(0, 0xc0, 12),
      controller(0, 7, 90),
    ],
    [
      ...note(0, 96, 60),
      controller(300, 64, 127),
      channelEvent(310, 0xe0, 0, 80),
      ...note(400, 500, 64),
      ...note(700, 20, 67),
      ...note(800, 20, 69),
    ],
    note(400, 20, 40, 80, 1),
  );

  it('begins with what was in force there, whoever said it, and holds the notes that begin in them, whole', () => {
    const cut = cutClip(song, { tracks: ['t2'], bars: { from: 2, to: 2 } }, 'Bar two');
    if (!cut.ok) throw new Error(cut.problem.code);
    const lines = readIndependently(cut.value.bytes).tracks.flat();
    const at0 = lines.filter((l) => l.startsWith('0 '));
    for (const said of [/ c00c/, / b0075a/, / b0407f/, / e00050/, / ff51 666667/])
      expect(at0.some((l) => said.test(l))).toBe(true);
    expect(heard(songIn(cut.value.bytes))).toEqual(
      heard(song, 4, [song.tracks[1]!]).filter((n) => Number(n.split(' ')[0]) < 4),
    );
    expect(cut.value.facts).toMatchObject({ bars: 1, meter: '4/4', notes: 2, program: 12 });
  });

  it('taken back at another bar, at another resolution, its notes stand at their musical places (law)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            tick: fc.nat(3 * 384 - 1),
            length: fc.integer({ min: 1, max: 500 }),
            key: fc.integer({ min: 30, max: 90 }),
          }),
          { minLength: 1, maxLength: 30 },
        ),
        fc.integer({ min: 1, max: 3 }),
        fc.integer({ min: 1, max: 20 }),
        (notes, from, bar) => {
          // One note of a key at a time: what overlaps on one key is another matter.
          const plain = [...new Map(notes.map((n) => [n.key, n])).values()];
          const source = songOf(
            [metaEvent(3 * 384, meta.endOfTrack)],
            plain.flatMap(({ tick, length, key }) => note(tick, length, key)),
          );
          const cut = cutClip(source, { tracks: ['t2'], bars: { from, to: 3 } }, 'x');
          if (!cut.ok) throw new Error(cut.problem.code);
          const clip = songIn(cut.value.bytes);
          const into: Song = {
            ...songOf([], note(0, 10, 100, 80, 5)),
            division: { kind: 'ppq', ticksPerQuarter: 480 },
          };
          const original = { original: 'a'.repeat(64), part: 1 };
          const result = runStep(
            into,
            {
              operation: 'tracks.bring-in',
              settings: { source: original, at: { bar }, channels: 'as they are' },
              scope: { tracks: 'all' },
            },
            new Map([[sourceKey(original), clip]]),
          );
          if (!result.ok) throw new Error(result.problem.code);
          const after = result.value.song;
          const wanted = plain
            .filter((n) => n.tick >= (from - 1) * 384)
            .map((n) => {
              const begin = n.tick / 96 - (from - 1) * 4 + (bar - 1) * 4;
              return `${begin} ${begin + n.length / 96} ${n.key} 80 0`;
            })
            .sort();
          const found = heard(after).filter((n) => n.endsWith(' 0'));
          // Another resolution has its own ticks: a 480th of a quarter is enough.
          const rounded = (list: string[]): string[] =>
            list
              .map((n) =>
                n
                  .split(' ')
                  .map((v, i) => (i < 2 ? Math.round(Number(v) * 480) : v))
                  .join(' '),
              )
              .sort();
          expect(rounded(found)).toEqual(rounded(wanted));
        },
      ),
      { seed: 16, numRuns: scaleRuns(60) },
    );
  });
});
