import { describe, expect, it } from 'vitest';
import { readIndependently } from '../../tests/support/independent.ts';
import { readSmf } from '../smf/read.ts';
import { bytesOf } from '../smf/worked-examples.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { makeHandoff, type Handoff } from './handoff.ts';
import type { HandoffAsked } from './settings.ts';

function songOf(hex: string): Song {
  const reading = readSmf(bytesOf(hex));
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'x.mid')[0]!;
}

function handOff(song: Song, settings: HandoffAsked): Handoff {
  const made = makeHandoff(
    song,
    { received: song, asRead: song },
    { format: 'as-received', runningStatus: true, chunks: true, ...settings },
  );
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
}

const track = (body: string): string =>
  `4D54726B ${(body.replace(/\s/g, '').length / 2).toString(16).padStart(8, '0')} ${body}`;
const header = (tracks: number): string => `4D546864 00000006 0001 000${tracks} 0060`;

describe('issue 9.3: meta events of a wrong length', () => {
  // A tempo of four bytes, a meter of two, a key of one, a port without a number, a tempo of two bytes.
  const song = songOf(
    `${header(1)} ${track('00FF5104 07A12000 00FF580203 03 00FF5901FF 00FF2100 00FF5102 07A1 00903C40 60803C40 00FF2F00')}`,
  );

  it('are kept in the song, and sent with their right length, so that a strict reader takes them as they were meant', () => {
    expect(song.tracks[0]!.events.count).toBe(8);
    expect(timingOf(song)).toMatchObject({
      tempos: [{ tempo: 500000 }],
      meters: [{ numerator: 3, denominator: 8 }],
      keys: [{ sharps: -1, minor: false }],
    });
    const { bytes, proof, notes } = handOff(song, {});
    expect(readIndependently(bytes).tracks[0]).toEqual([
      '0 ff51 500000',
      '0 ff58 3 8 24 8',
      '0 ff59 -1 0',
      '0 903c40',
      '96 803c40',
      '96 ff2f',
    ]);
    expect(proof.holds).toBe(true);
    expect(notes).toEqual(['Track 1: 5 meta events of a wrong length were mended.']);
    const back = readSmf(bytes);
    expect(back.ok && back.value.problems).toEqual([]);
  });
});

describe('issue 9.3: chunks of other kinds', () => {
  const hex = `${header(2)} 58464948 00000002 0102 ${track('00FF2F00')} 58464B4D 00000000 ${track('00FF2F00')}`;
  const song = songOf(hex);
  const places = (h: Handoff): number[] => {
    const back = readSmf(h.bytes);
    if (!back.ok) throw new Error(back.problem.code);
    return back.value.smf.alienChunks.map((c) => c.beforeTrack);
  };

  it('keep their places as received, and stand last where a format is asked for', () => {
    expect(handOff(song, {}).bytes).toEqual(bytesOf(hex));
    expect(places(handOff(song, { format: 1 }))).toEqual([2, 2]);
    expect(places(handOff(song, { format: 0 }))).toEqual([1, 1]);
    expect(handOff(song, { format: 1 }).notes).toEqual([
      'Chunks of other kinds stand last: 2 (XFIH, XFKM).',
    ]);
  });

  it('are left out where that is asked for, which the slip says; the independent reader takes the file then', () => {
    const { bytes, notes } = handOff(song, { chunks: false });
    expect(notes).toEqual(['Chunks of other kinds were left out: 2 (XFIH, XFKM).']);
    expect(readIndependently(bytes).tracks).toHaveLength(2);
  });
});
