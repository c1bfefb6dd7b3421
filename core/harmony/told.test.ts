import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { barPlans } from '#demo/parts.ts';
import { lanternFerry } from '#demo/lantern-ferry.ts';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { keyEvent, meterEvent } from '../edit/edit-map.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { harmonyOf } from './told.ts';
import { outsideOf } from './outside.ts';

const chord = (tick: number, length: number, keys: readonly number[], channel = 0) =>
  keys.flatMap((key) => note(tick, length, key, 80, channel));
const names = (song: Song): string[] => harmonyOf(song).chords.map((c) => `${c.bar} ${c.name}`);

describe('chords told from what sounds', () => {
  it('issue 20: the demo, whose harmony is known from the code that made it: at least 95 % of its bars', () => {
    const song = songsFromSmf(lanternFerry(), 'demo')[0]!;
    const { chords } = harmonyOf(song);
    const plans = barPlans();
    const right = plans.filter(({ atTick, lengthTicks, chord: meant }) => {
      const overlap = (c: (typeof chords)[number]): number =>
        Math.min(c.toTick, atTick + lengthTicks) - Math.max(c.atTick, atTick);
      const told = chords.reduce((best, c) => (overlap(c) > overlap(best) ? c : best));
      const tones = told.chord.quality.tones.map((t) => (t + told.chord.root) % 12);
      // Its triad; a seventh that no part plays cannot be told.
      return (
        told.chord.root === meant.root && meant.pitches.slice(0, 3).every((p) => tones.includes(p))
      );
    });
    expect(right.length / plans.length).toBeGreaterThanOrEqual(0.95);
  });

  it('issue 20: the keys of its sections, as they were composed', () => {
    const song = songsFromSmf(lanternFerry(), 'demo')[0]!;
    expect(harmonyOf(song).keys.map((k) => `${k.section}: ${k.name}`)).toEqual([
      'Mist: D minor',
      'Ferryman, row: D minor',
      'Glow, lanterns: D minor',
      'Lantern market: D minor',
      'Paper moon waltz: F major',
      'Squall: D minor',
      'Lanterns out: D minor',
    ]);
  });

  it('issue 20: the chords of 480 bars cost what four times 120 bars do', () => {
    const detect = (bars: number) => {
      const bar = (n: number) => chord(n * 384, 384, [48, 60, 64 + (n % 2), 67]);
      const notes = Array.from({ length: bars }, (_, n) => bar(n)).flat();
      return () => harmonyOf(songOf(notes));
    };
    expect(costRatio(detect(120), detect(480), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });

  it('block chords, one a bar and two a bar, worked by hand; drums and noises left out', () => {
    const song = songOf(
      [
        ...chord(0, 384, [48, 60, 64, 67]),
        ...chord(384, 192, [50, 60, 65, 69]),
        ...chord(576, 192, [47, 62, 65, 67]),
        ...chord(768, 384, [48, 60, 64, 67]),
      ],
      // A kit, and a sea shore, that would be other chords.
      Array.from({ length: 12 }, (_, n) => note(n * 96, 90, n % 2 ? 42 : 37, 90, 9)).flat(),
      [channelEvent(0, 0xc1, 122), ...chord(0, 1152, [61, 66, 70], 1)],
    );
    expect(names(song)).toEqual(['1 C', '2 Dm7', '2 G7/B', '3 C']);
    expect(harmonyOf(song).chords.map((c) => [c.atTick, c.toTick])).toEqual([
      [0, 384],
      [384, 576],
      [576, 768],
      [768, 1152],
    ]);
  });

  it('a broken chord is one chord, and a passing note in the tune none of its own', () => {
    const broken = [57, 60, 64, 69, 64, 60, 57, 64].flatMap((key, n) => note(n * 48, 48, key));
    const tune = [
      note(0, 96, 72, 80, 1),
      note(96, 48, 74, 80, 1),
      note(144, 240, 76, 80, 1),
    ].flat();
    expect(names(songOf(broken, tune))).toEqual(['1 Am']);
  });

  it('a line alone has no chords, and nothing has neither chords nor keys', () => {
    expect(names(songOf([...note(0, 384, 60), ...note(384, 384, 60)]))).toEqual([]);
    expect(harmonyOf(songOf([controller(0, 7, 90)]))).toEqual({ chords: [], keys: [] });
    expect(harmonyOf(songOf(note(0, 96, 38, 90, 9)))).toEqual({ chords: [], keys: [] });
    // Notes of no length sound for a tick.
    expect(harmonyOf(songOf([60, 64, 67].flatMap((key) => note(0, 0, key)))).chords).toHaveLength(
      1,
    );
  });

  it('a key that changes halfway is told where it does; what is not of it is counted', () => {
    // I IV V I in C, then in E: three sharps more than half of the circle away.
    const cadence = (at: number, root: number) =>
      [
        [0, 4, 7],
        [5, 9, 12],
        [7, 11, 14],
        [0, 4, 7],
      ].flatMap((steps, n) => chord(at + n * 384, 384, [root - 12, ...steps.map((s) => root + s)]));
    const song = songOf([
      ...[0, 1, 2, 3].flatMap((n) => cadence(n * 1536, 60)),
      ...[4, 5, 6, 7].flatMap((n) => cadence(n * 1536, 64)),
    ]);
    const { keys } = harmonyOf(song);
    expect(keys.map((k) => `${k.fromBar}-${k.toBar} ${k.name}`)).toEqual([
      '1-16 C major',
      '17-32 E major',
    ]);
    expect(outsideOf(song, keys)).toEqual([[], []]);
    const odd = songOf([
      ...[0, 1, 2, 3].flatMap((n) => cadence(n * 1536, 60)),
      ...note(96, 48, 66),
      ...note(480, 48, 66),
    ]);
    expect(outsideOf(odd, harmonyOf(odd).keys)).toEqual([[{ note: 'F#', count: 2 }]]);
  });

  it('the key that the song says tips the scales between two that are as near', () => {
    const song = (sharps: number, minor: boolean): Song =>
      songOf([
        keyEvent(0, sharps, minor),
        ...[0, 384, 768, 1152].flatMap((t, n) =>
          chord(t, 384, n % 2 ? [53, 57, 60] : [50, 57, 65]),
        ),
      ]);
    expect(harmonyOf(song(-1, true)).keys.map((k) => k.name)).toEqual(['D minor']);
    expect(harmonyOf(song(-1, false)).keys.map((k) => k.name)).toEqual(['F major']);
  });

  it('sections have a key each; in 7/8 and 6/8 chords change on their beats', () => {
    const song = songOf([
      meterEvent(0, 7, 8),
      metaEvent(0, meta.marker, encodeText('One')),
      metaEvent(4 * 336, meta.marker, encodeText('Two')),
      ...[0, 1, 2, 3].flatMap((n) => chord(n * 336, 336, [45, 57, 60, 64])),
      ...[4, 5, 6, 7].flatMap((n) => [
        ...chord(n * 336, 144, [43, 59, 62, 65]),
        ...chord(n * 336 + 144, 192, [48, 60, 64, 67]),
      ]),
    ]);
    expect(names(song)).toEqual([
      '1 Am',
      ...[5, 6, 7, 8].flatMap((bar) => [`${bar} G7`, `${bar} C`]),
    ]);
    expect(harmonyOf(song).keys.map((k) => `${k.section} ${k.name}`)).toEqual([
      'One A minor',
      'Two C major',
    ]);
  });
});

describe('keys as they are written', () => {
  it('G♭ major where the song says so, F♯ major where it does not', () => {
    const chords = [
      [54, 58, 61],
      [59, 63, 66],
      [61, 65, 68],
      [54, 58, 61],
    ].flatMap((keys, n) => chord(n * 384, 384, keys));
    const said = songOf([keyEvent(0, -6, false), ...chords]);
    expect(harmonyOf(said).keys.map((k) => k.name)).toEqual(['G♭ major']);
    expect(names(said)).toEqual(['1 Gb', '2 Cb', '3 Db', '4 Gb']);
    expect(harmonyOf(songOf(chords)).keys.map((k) => k.name)).toEqual(['F♯ major']);
  });
});
