import { describe, expect, it } from 'vitest';
import { map, part, planted } from '../../tests/support/planted.ts';
import { controller, songOf } from '../../tests/support/songs.ts';
import { channelEvent, type EventValue } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import type { Finding } from './finding.ts';
import { lookOver } from './look-over.ts';

const found = (song: Song): Finding[] => lookOver(song).filter((f) => f.rule === 'doubled');

describe('what takes out notes', () => {
  it('takes no whole part, but by a step that names it with its notes and what plays them, never as likely', () => {
    for (const { faults } of Object.values(planted))
      for (const tracks of faults) {
        const song = songOf(...tracks);
        for (const finding of lookOver(song))
          for (const { operation, title, scope } of finding.settle) {
            if (operation !== 'tracks.remove' || scope.tracks === 'all') continue;
            const notes = song.tracks
              .filter((t) => scope.tracks.includes(t.id))
              .reduce((sum, t) => sum + notesOf(t.events).count, 0);
            if (notes === 0) continue;
            expect([finding.sure, title]).toEqual([
              'possible',
              expect.stringMatching(new RegExp(`^Remove .+: ${notes} notes, .+`)),
            ]);
          }
      }
  });
});

describe('doubled parts', () => {
  const shifted = (semitones: number): EventValue[] =>
    part(0).map((e) => {
      if (e.status >= 0xf0) return e;
      const moved = { ...e, status: (e.status & 0xf0) | 1 };
      return e.status < 0xa0 ? { ...moved, data1: e.data1 + semitones } : moved;
    });
  /** The same part, played by another program. */
  const playedBy = (program: number, events: readonly EventValue[]): EventValue[] =>
    events.map((e) => (e.status >> 4 === 0xc ? { ...e, data1: program } : e));

  it.each([
    [0, 'at the unison'],
    [12, 'an octave up'],
    [-24, '2 octaves down'],
  ])('are found %i semitones away', (semitones, words) => {
    const [finding] = found(songOf(map, part(0, 'Tune'), shifted(semitones)));
    expect(finding!.title).toBe(`Part A doubles Tune ${words}`);
  });

  it('are found where one is part of another, all but a few notes, and that is removed', () => {
    const long = [
      ...part(0, 'Tune'),
      ...[2000, 2100, 2200].flatMap((t) => [
        channelEvent(t, 0x90, 70, 50),
        channelEvent(t + 50, 0x80, 70, 50),
      ]),
    ];
    const [finding] = found(songOf(map, long, shifted(12)));
    expect(finding!.title).toBe('Part A doubles Tune, part of it, an octave up');
    expect(finding!.settle.map((s) => s.title)).toEqual([
      'Remove Part A: 10 notes, Pad 1 (new age)',
    ]);
    // 9 of 10 notes are 90 %: too few.
    const other = shifted(12).map((e) =>
      e.atTick === 96 || e.atTick === 176 ? { ...e, data1: 99 } : e,
    );
    expect(found(songOf(map, long, other))).toEqual([]);
  });

  it('at the unison, panned apart or detuned, are told as an effect, and not mended', () => {
    for (const [apart, word] of [
      [{ ...controller(0, 10, 100), status: 0xb1 }, 'panned apart'],
      [channelEvent(0, 0xe1, 0, 70), 'detuned'],
    ] as const) {
      const [finding] = found(songOf(map, part(0, 'Tune'), [...shifted(0), apart]));
      expect(finding!.title).toBe(`Part A doubles Tune at the unison, ${word}`);
      expect([finding!.sure, finding!.settle]).toEqual(['possible', []]);
    }
  });

  it.each([
    [12, 'an octave up'],
    [0, 'at the unison'],
  ])(
    'on another program %i semitones away are arrangement: told, never mended',
    (semitones, where) => {
      const bass = playedBy(33, part(0, 'Guitar'));
      const guitar = playedBy(27, shifted(semitones));
      const [finding] = found(songOf(map, bass, guitar));
      expect(finding!.title).toBe(`Part A doubles Guitar ${where}, on another instrument`);
      expect([finding!.sure, finding!.settle]).toEqual(['possible', []]);
    },
  );

  it('go by a step that names the part, its notes and what plays them, and are never likely', () => {
    const tracks = [playedBy(24, part(0, 'Tune')), playedBy(24, shifted(12))];
    const [finding] = found(songOf(map, ...tracks));
    // Program 25 from 1 is the nylon guitar (General MIDI level 1, RP-003).
    expect([finding!.sure, finding!.settle.map((s) => s.title)]).toEqual([
      'possible',
      [
        'Remove Part A: 10 notes, Acoustic Guitar (nylon)',
        'Remove Tune: 10 notes, Acoustic Guitar (nylon)',
      ],
    ]);
  });

  it('are not what moves in fifths; one note more is no difference', () => {
    expect(found(songOf(map, part(0), shifted(7)))).toEqual([]);
    expect(
      found(
        songOf(map, part(0), [
          ...shifted(12),
          channelEvent(2000, 0x91, 60, 50),
          channelEvent(2050, 0x81, 60, 50),
        ]),
      ).map((f) => f.title),
    ).toEqual(['Part A doubles Part A, part of it, an octave down']);
  });
});
