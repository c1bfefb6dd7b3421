import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { readSmf } from '../smf/read.ts';
import { bytesOf, workedFormat0, workedFormat1 } from '../smf/worked-examples.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import { trackName, type Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { runStep, type StepRequest } from './run.ts';

function songOf(file: Uint8Array): Song {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'song.mid')[0]!;
}

function step(song: Song, request: StepRequest) {
  const result = runStep(song, request);
  if (!result.ok) throw new Error(result.problem.code);
  return result.value;
}

const lines = (song: Song): string[][] => song.tracks.map((t) => plainEvents(t.events));

describe('renaming tracks', () => {
  it('adds a name where there is none, before everything else, and leaves the other tracks the same objects', () => {
    const before = songOf(workedFormat1);
    const { song, described } = step(before, {
      operation: 'tracks.rename',
      settings: { name: 'Horn' },
      scope: { tracks: ['t2'] },
    });
    expect(lines(song)[1]).toEqual(['0 ff03 486f726e', ...lines(before)[1]!]);
    expect([0, 2, 3].map((i) => song.tracks[i] === before.tracks[i])).toEqual([true, true, true]);
    expect(described).toBe('Renamed track 2 to “Horn”');
  });

  it('replaces a name in its place and numbers several', () => {
    const named = bytesOf(
      '4D546864 00000006 0001 0002 0060 4D54726B 0000000D 00C000 00FF030141 00FF2F00 4D54726B 00000004 00FF2F00',
    );
    const { song } = step(songOf(named), {
      operation: 'tracks.rename',
      settings: { name: 'Part {n} é' },
    });
    expect(lines(song)[0]).toEqual([
      '0 c000',
      '0 ff03 5061727420312 0c3a9'.replace(/(?<=2) /, ''),
      '0 ff2f',
    ]);
    expect(song.tracks.map((t) => trackName(t, 'Latin-1'))).toEqual(['Part 1 é', 'Part 2 é']);
  });
});

describe('removing and moving tracks', () => {
  it('keeps the tempo map when the first track goes', () => {
    const before = songOf(workedFormat1);
    const { song, report } = step(before, {
      operation: 'tracks.remove',
      scope: { tracks: ['t1'] },
    });
    expect(lines(song)[0]).toEqual(['0 ff58 4 4 24 8', '0 ff51 500000', ...lines(before)[1]!]);
    expect(report.changes.map((c) => c.did)).toEqual(['removed', 'changed']);
    expect(timingOf(song).tempos).toEqual([{ atTick: 0, tempo: 500000 }]);
  });

  it('puts the tempo map into whichever track comes first', () => {
    const { song } = step(songOf(workedFormat1), {
      operation: 'tracks.reorder',
      settings: { before: 't1' },
      scope: { tracks: ['t4'] },
    });
    expect(song.tracks.map((t) => t.id)).toEqual(['t4', 't1', 't2', 't3']);
    expect(lines(song)[0]!.slice(0, 3)).toEqual(['0 ff58 4 4 24 8', '0 ff51 500000', '0 c246']);
    expect(lines(song)[1]).toEqual(['384 ff2f']);
  });

  it('keeps several moved tracks in their order', () => {
    const { song } = step(songOf(workedFormat1), {
      operation: 'tracks.reorder',
      settings: { before: null },
      scope: { tracks: ['t3', 't2'] },
    });
    expect(song.tracks.map((t) => t.id)).toEqual(['t1', 't4', 't2', 't3']);
  });
});

describe('splitting by channel', () => {
  it('turns the format 0 example of the specification into its format 1 example, name for name (Source: SMF 1.0, RP-001)', () => {
    const { song } = step(songOf(workedFormat0), { operation: 'tracks.split-by-channel' });
    const expected = lines(songOf(workedFormat1));
    // The examples differ in how they end a note: 8n 40 in format 0, 9n 00 in format 1; and on the order of two ends.
    const asNotes = (track: string[]): string[] =>
      track.map((e) => e.replace(/ 8(.)(..)40$/, ' 9$1$200')).sort();
    expect(lines(song).map(asNotes)).toEqual(expected.map((t) => [...t].sort()));
  });

  it('sends what follows a channel prefix to its channel', () => {
    const file = bytesOf(
      '4D546864 00000006 0000 0001 0060 4D54726B 00000020 00FF200101 00FF040242 42 00903C40 00913C40 60803C00 00813C00 00FF2F00',
    );
    const { song } = step(songOf(file), { operation: 'tracks.split-by-channel' });
    expect(lines(song)[0]).toEqual(['96 ff2f']);
    expect(lines(song)[2]!.slice(0, 2)).toEqual(['0 ff20 1', '0 ff04 4242']);
  });
});
