import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents, readIndependently } from '../../tests/support/independent.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { readSmf } from './read.ts';
import type { Smf, SmfReading } from './smf.ts';
import { divisionWord } from './division.ts';
import { bytesOf, workedFormat0, workedFormat1 } from './worked-examples.ts';
import { writeSmf } from './write.ts';

function read(file: Uint8Array): SmfReading {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return reading.value;
}

const withoutBodies = (smf: Smf): Smf => ({
  ...smf,
  tracks: smf.tracks.map(({ events }) => ({ events })),
});
const events = (smf: Smf): string[][] => smf.tracks.map((t) => plainEvents(t.events));

describe('the worked examples of the specification (SMF 1.0, RP-001)', () => {
  it.each([
    ['format 0', workedFormat0],
    ['format 1', workedFormat1],
  ])('%s reads without a problem and is written back byte for byte', (_, file) => {
    const { smf, problems } = read(file);
    expect(problems).toEqual([]);
    expect(writeSmf(smf)).toEqual(file);
    expect(writeSmf(withoutBodies(smf))).toEqual(file);
  });

  it('holds the notes the specification describes', () => {
    // E5 (76) from 192 to 384 on channel 1, G4 (67) from 96 on channel 2, C3 and C4 (48, 60) from 0 on channel 3.
    const all = events(read(workedFormat1).smf);
    expect(all[1]).toEqual(['0 c005', '192 904c20', '384 904c00', '384 ff2f']);
    expect(all[2]).toEqual(['0 c12e', '96 914340', '384 914300', '384 ff2f']);
    expect(all[3]).toEqual([
      '0 c246',
      '0 923060',
      '0 923c60',
      '384 923000',
      '384 923c00',
      '384 ff2f',
    ]);
    expect(all[0]).toEqual(['0 ff58 4 4 24 8', '0 ff51 500000', '384 ff2f']);
  });
});

describe('the law of reading and writing', () => {
  const seed = 20261123;

  it('every valid file keeps its events, ticks, order, chunks and division', () => {
    fc.assert(
      fc.property(smfFile(), fc.boolean(), (smf, runningStatus) => {
        const { smf: back, problems } = read(writeSmf(smf, { runningStatus }));
        expect(problems.filter((p) => p.code !== 'meta-length')).toEqual([]);
        expect(events(back)).toEqual(events(smf));
        expect(back.alienChunks).toEqual(smf.alienChunks);
        expect(back.headerExtra).toEqual(smf.headerExtra);
        expect([back.format, divisionWord(back.division)]).toEqual([
          smf.format,
          divisionWord(smf.division),
        ]);
      }),
      { seed, numRuns: scaleRuns(1500) },
    );
  });

  it('an untouched file is written back byte for byte, with or without running status', () => {
    fc.assert(
      fc.property(smfFile(), fc.boolean(), (smf, runningStatus) => {
        const file = writeSmf(smf, { runningStatus });
        expect(writeSmf(read(file).smf)).toEqual(file);
      }),
      { seed, numRuns: scaleRuns(800) },
    );
  });

  it('an independent reader (npm midi-file) sees the same events in what we write', () => {
    fc.assert(
      fc.property(smfFile({ alien: false }), fc.boolean(), (smf, runningStatus) => {
        const file = writeSmf(smf, { runningStatus });
        const theirs = readIndependently(file);
        expect(theirs.tracks).toEqual(events(smf));
        expect(theirs.format).toBe(smf.format);
      }),
      { seed, numRuns: scaleRuns(1500) },
    );
  });

  it('keeps every tempo the format can say (Source: three bytes, SMF 1.0)', () => {
    for (const tempo of [1, 451128, 500000, 618557, 0xffffff]) {
      const file = bytesOf(
        `4D546864 00000006 0000 0001 01E0 4D54726B 0000000B 00FF5103 ${tempo.toString(16).padStart(6, '0')} 00FF2F00`,
      );
      expect(events(read(file).smf)[0]![0]).toBe(`0 ff51 ${tempo}`);
      expect(writeSmf(withoutBodies(read(file).smf))).toEqual(file);
    }
  });

  it('keeps the time of an unknown meta event, controller 127 and a marker on the second track', () => {
    const file = bytesOf(
      `4D546864 00000006 0001 0002 0060 4D54726B 0000000D 60FF600101 00B07F00 00FF2F00 4D54726B 0000000A 10FF060241 42 00FF2F00`,
    );
    const all = events(read(file).smf);
    expect(all[0]).toEqual(['96 ff60 01', '96 b07f00', '96 ff2f']);
    expect(all[1]).toEqual(['16 ff06 4142', '16 ff2f']);
  });
});

describe('RIFF-wrapped files (RP-029)', () => {
  it('reads the file inside and puts the wrapper back byte for byte', () => {
    const list = bytesOf('4C495354 00000000'); // an empty LIST, little-endian length
    const size = 4 + list.length + 8 + workedFormat1.length + (workedFormat1.length & 1);
    const head = bytesOf(`52494646 ${size.toString(16).padStart(2, '0')}000000 524D4944`);
    const file = Uint8Array.from([
      ...head,
      ...list,
      ...bytesOf(`64617461 ${workedFormat1.length.toString(16)}000000`),
      ...workedFormat1,
      ...(workedFormat1.length & 1 ? [0] : []),
    ]);
    const { smf, problems } = read(file);
    expect(problems).toEqual([]);
    expect(events(smf)).toEqual(events(read(workedFormat1).smf));
    expect(writeSmf(smf)).toEqual(file);
  });
});
