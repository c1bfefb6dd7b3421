import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isDeep, scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, exampleSteps, namedSteps } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { eventValues } from '../smf/events.ts';
import { notesOf } from '../song/notes.ts';
import type { Song } from '../song/song.ts';
import { operations } from './index.ts';
import { runStep } from './run.ts';

const rowSteps = exampleSteps.filter(
  (r) => operations.find((o) => o.id === r.operation)!.takesRows,
);
/** A note by what it is: channel, key, velocity, beginning and end. */
const notesIn = (song: Song, id: string): string[] => {
  const { events } = song.tracks.find((t) => t.id === id)!;
  const { count, on, off } = notesOf(events);
  return Array.from({ length: count }, (_, n) => {
    const row = on[n]!;
    const end = off[n] === -1 ? 'hangs' : events.atTick[off[n]!];
    return `${events.status[row]! & 15} ${events.data1[row]} ${events.data2[row]} ${events.atTick[row]} ${end}`;
  });
};

describe('steps on notes that are chosen by hand', () => {
  it.each(namedSteps(rowSteps))('%s changes no other', (_, request) => {
    let changed = 0;
    fc.assert(
      fc.property(
        madeSong.chain((song) =>
          fc.tuple(
            fc.constant(song),
            fc.subarray(Array.from(notesOf(song.tracks[1]!.events).on), {
              minLength: 1,
              maxLength: 4,
            }),
          ),
        ),
        ([song, rows]) => {
          const chosen = new Set(rows);
          const scope = { rows: { t2: rows.map((row) => [row, row]) } };
          const done = runStep(song, { ...request, scope }, exampleSources);
          if (!done.ok) return;
          if (done.value.report.changes.length > 0) changed++;
          const { events } = song.tracks[1]!;
          const { on } = notesOf(events);
          const others = notesIn(song, 't2').filter((_note, n) => !chosen.has(on[n]!));
          const now = new Set(notesIn(done.value.song, 't2'));
          // A key that sounds over itself before or after pairs its ends anew, which is told.
          const overlaps = done.value.report.told?.some((t) => t.includes('more than before'));
          const keys = notesIn(song, 't2').map((n) => n.split(' ').slice(0, 2).join());
          const twice = new Set(keys.filter((k, n) => keys.indexOf(k) !== n));
          for (const other of overlaps ? [] : others)
            if (!twice.has(other.split(' ').slice(0, 2).join())) expect(now).toContain(other);
          for (const track of song.tracks)
            if (track.id !== 't2' && request.operation !== 'notes.to-track')
              expect(done.value.song.tracks.find((t) => t.id === track.id)).toBe(track);
        },
      ),
      { seed: 197, numRuns: scaleRuns(60) },
    );
    // Notes alone are chosen here, few of them chords, and of the second track.
    if (request.operation === 'notes.double' && JSON.stringify(request.settings).includes('"to"'))
      return;
    if (isDeep && !/^(events|controllers|notes\.(strum|to-track|voicing))/.test(request.operation))
      expect(changed).toBeGreaterThan(0);
  });

  it('three chosen chords are halved, a chord deleted, and the rest stays (hand-worked)', () => {
    const chord = (tick: number) => [60, 64, 67].flatMap((key) => note(tick, 96, key));
    const song = songOf([0, 96, 192, 288].flatMap(chord));
    // Each chord is three note-ons and three note-offs: of the first three chords the note-ons.
    const ons = eventValues(song.tracks[0]!.events).flatMap((e, row) =>
      e.status >> 4 === 9 && e.atTick < 288 ? [row] : [],
    );
    const rows = { t1: ons.map((row): [number, number] => [row, row]) };
    const halved = take(song, 'notes.lengths', { how: 'scale', percent: 50 }, { rows }).song;
    expect(notesIn(halved, 't1')).toEqual([
      ...[0, 96, 192].flatMap((t) => [60, 64, 67].map((k) => `0 ${k} 80 ${t} ${t + 48}`)),
      ...[60, 64, 67].map((k) => `0 ${k} 80 288 384`),
    ]);
  });

  it('chords are strummed from the lowest up, and end as they did (hand-worked)', () => {
    // At 120 BPM and 96 PPQ a tick is 5.2083 ms: 20 and 40 ms are 3.84 and 7.68 ticks.
    const song = songOf([67, 60, 64].flatMap((key) => note(96, 96, key)));
    expect(notesIn(take(song, 'notes.strum', { apart: 20 }).song, 't1').sort()).toEqual([
      '0 60 80 96 192',
      '0 64 80 100 192',
      '0 67 80 104 192',
    ]);
  });

  it('go to another track, on its channel', () => {
    const song = songOf(note(0, 96, 60, 80, 3), [...note(0, 96, 70), ...note(96, 96, 71)]);
    const done = take(song, 'notes.to-track', { to: 't1' }, { rows: { t2: [[0, 0]] } });
    expect([notesIn(done.song, 't1'), notesIn(done.song, 't2')]).toEqual([
      ['3 60 80 0 96', '3 70 80 0 96'],
      ['0 71 80 96 192'],
    ]);
    expect(done.described).toBe('Moved 1 note to track 1');
  });

  it('cannot be taken where rows mean nothing, or are not there', () => {
    const song = songOf(note(0, 96, 60));
    expect(refusal(song, 'bars.cut', {}, { rows: { t1: [[0, 0]] } })).toBe('scope-without-bars');
    expect(refusal(song, 'tracks.rename', { name: 'x' }, { rows: { t1: [[0, 0]] } })).toBe(
      'scope-has-rows',
    );
    expect(refusal(song, 'velocity.set', { add: 1 }, { rows: { t1: [[0, 9]] } })).toBe(
      'settings-invalid',
    );
    expect(refusal(song, 'velocity.set', { add: 1 }, { rows: { t9: [[0, 0]] } })).toBe(
      'track-unknown',
    );
    expect(
      refusal(
        song,
        'velocity.set',
        { add: 1 },
        { rows: { t1: [[0, 0]] }, bars: { from: 1, to: 1 } },
      ),
    ).toBe('settings-invalid');
  });
});
