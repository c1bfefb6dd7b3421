import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { say } from '../problems/sentences.ts';
import type { RefusalProblem } from '../problems/problems.ts';
import { readSmf } from './read.ts';
import { bytesOf, workedFormat0, workedFormat1 } from './worked-examples.ts';
import { writeSmf } from './write.ts';

const header = '4D546864 00000006 0001 0001 0060';
const track = (body: string): string =>
  `4D54726B ${(body.replace(/\s/g, '').length / 2).toString(16).padStart(8, '0')} ${body}`;

function salvage(hex: string | Uint8Array) {
  const reading = readSmf(typeof hex === 'string' ? bytesOf(hex) : hex);
  if (!reading.ok) throw new Error(reading.problem.code);
  const { smf, problems } = reading.value;
  return {
    smf,
    problems,
    codes: problems.map((p) => p.code),
    tracks: smf.tracks.map((t) => plainEvents(t.events)),
  };
}

function refusal(bytes: Uint8Array): RefusalProblem {
  const reading = readSmf(bytes);
  if (reading.ok) throw new Error('was read');
  return reading.problem;
}

describe('damaged files', () => {
  it('gives every event before the cut, wherever a file is cut, and says so', () => {
    const whole = salvage(workedFormat0).tracks[0]!;
    for (let length = 22; length < workedFormat0.length; length++) {
      const { tracks, codes } = salvage(workedFormat0.subarray(0, length));
      const music = tracks[0]!.slice(0, -1);
      expect(music).toEqual(whole.slice(0, music.length));
      expect(codes.length).toBeGreaterThan(0);
    }
  });

  it('names chunk, track, byte, what was expected and found', () => {
    const { problems } = salvage(workedFormat0.subarray(0, 40));
    expect(problems[0]).toEqual({
      code: 'chunk-cut',
      where: { chunk: 'MTrk', track: 1, byte: 18 },
      stated: 0x3b,
      present: 18,
    });
    expect(say(problems[0]!)).toMatchObject({
      message: 'The file ends inside a chunk',
      expected: '59 bytes',
      found: '18 bytes',
    });
  });

  it('reads a track to its end of track where its length is too small', () => {
    const { tracks, codes } = salvage(`${header} 4D54726B 00000004 00903C40 60803C40 00FF2F00`);
    expect(tracks[0]).toEqual(['0 903c40', '96 803c40', '96 ff2f']);
    expect(codes).toEqual(['chunk-length']);
  });

  it('finds the next track where the length of one is too large', () => {
    const { tracks, codes } = salvage(
      `4D546864 00000006 0001 0002 0060 4D54726B 00000FFF 00903C40 60803C40 00FF2F00 ${track('00914040 00FF2F00')}`,
    );
    expect(tracks).toEqual([
      ['0 903c40', '96 803c40', '96 ff2f'],
      ['0 914040', '0 ff2f'],
    ]);
    expect(codes).toEqual(['chunk-length']);
  });

  it('sets an end of track where there is none', () => {
    const { tracks, codes, smf } = salvage(`${header} ${track('00903C40 60803C40')}`);
    expect(tracks[0]!.at(-1)).toBe('96 ff2f');
    expect(codes).toEqual(['end-of-track-missing']);
    expect(smf.tracks[0]!.body).toBeUndefined();
  });

  it('lets running status go on after a meta event, and writes it strictly', () => {
    const { tracks, codes, smf } = salvage(
      `${header} ${track('00903C40 00FF010141 603C00 00FF2F00')}`,
    );
    expect(tracks[0]).toEqual(['0 903c40', '0 ff01 41', '96 903c00', '96 ff2f']);
    expect(codes).toEqual(['running-status-after-meta']);
    expect(salvage(writeSmf(smf)).codes).toEqual([]);
  });

  it('limits data bytes above 127 and counts them', () => {
    const { tracks, problems } = salvage(`${header} ${track('00903CC8 60803CFF 00FF2F00')}`);
    expect(tracks[0]).toEqual(['0 903c7f', '96 803c7f', '96 ff2f']);
    expect(problems).toEqual([
      {
        code: 'data-byte-high',
        where: { chunk: 'MTrk', track: 1, byte: 25 },
        value: 200,
        times: 2,
      },
    ]);
  });

  it('keeps a stray real-time byte as an escaped packet', () => {
    const { tracks, codes } = salvage(`${header} ${track('00903C40 10F8 50803C40 00FF2F00')}`);
    expect(tracks[0]).toEqual(['0 903c40', '16 f7 f8', '96 803c40', '96 ff2f']);
    expect(codes).toEqual(['status-not-in-files']);
  });

  it('goes on behind an event with a wrong length where events can be made out again', () => {
    const { tracks, codes } = salvage(
      `${header} ${track('00FF03FF7F 00903C40 60803C40 00FF2F00')}`,
    );
    expect(tracks[0]).toEqual(['0 903c40', '96 803c40', '96 ff2f']);
    expect(codes).toEqual(['length-too-long']);
  });

  it('keeps events that follow an early end of track', () => {
    const { tracks, codes } = salvage(`${header} ${track('00903C40 00FF2F00 60803C40 00FF2F00')}`);
    expect(tracks[0]).toEqual(['0 903c40', '96 803c40', '96 ff2f']);
    expect(codes).toEqual(['end-of-track-early']);
  });

  it('passes over bytes between chunks and before the header', () => {
    const late = salvage(Uint8Array.from([...new Uint8Array(128), ...workedFormat1]));
    expect(late.codes).toEqual(['header-late']);
    expect(late.tracks).toEqual(salvage(workedFormat1).tracks);
    const between = salvage(`${header} ${track('00FF2F00')} 0000001A`);
    expect(between.codes).toEqual(['bytes-between-chunks']);
  });

  it('reads tracks whose file header is lost', () => {
    expect(salvage(track('00903C40 60803C40 00FF2F00'))).toMatchObject({
      codes: ['header-missing'],
      smf: { format: 1 },
    });
  });

  it('takes what an odd header leaves', () => {
    expect(salvage(`4D546864 00000006 0005 0003 0000 ${track('00FF2F00')}`).codes).toEqual([
      'division-invalid',
      'track-count',
      'format-unknown',
    ]);
    expect(
      salvage(`4D546864 00000006 0000 0002 0060 ${track('00FF2F00')} ${track('00FF2F00')}`),
    ).toMatchObject({ codes: ['format0-many-tracks'], smf: { format: 1 } });
  });

  it('lists the first 200 problems and counts the rest', () => {
    const { problems } = salvage(`${header} ${track(`${'00F8'.repeat(300)} 00FF2F00`)}`);
    expect(problems).toHaveLength(201);
    expect(problems.at(-1)).toMatchObject({ code: 'more-problems', left: 100 });
  });
});

describe('files that hold no MIDI', () => {
  it.each([
    ['an empty file', '', 'file-empty'],
    ['a zip archive', '504B0304 14000000', 'a zip archive'],
    ['a text', '48656C6C6F2C20746865726521', 'a text'],
    ['an audio recording', '52494646 24000000 57415645 666D7420', 'an audio recording'],
    ['other data', '00010203 0405FFFE', 'data of another kind'],
  ])('%s is refused, saying what it looks like', (_, hex, expected) => {
    const problem = refusal(bytesOf(hex));
    expect(problem.code === 'not-midi' ? problem.looksLike : problem.code).toBe(expected);
    expect(say(problem).remedy.length).toBeGreaterThan(10);
  });

  it('a header without tracks is refused', () => {
    expect(refusal(bytesOf('4D546864 00000006 0001 0000 0060')).code).toBe('no-tracks');
  });
});
