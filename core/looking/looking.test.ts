import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import {
  damagedCopy,
  drumGroove,
  instrumentCapture,
  phoneSketch,
  playersReturn,
  shreddedRamp,
} from '../../demo/arrivals.ts';
import { lanternFerry } from '../../demo/lantern-ferry.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { runStep } from '../operations/run.ts';
import { readSmf } from '../smf/read.ts';
import type { Smf } from '../smf/smf.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent } from '../smf/events.ts';
import { lookOver } from './look-over.ts';

const songOf = (smf: Smf): Song => songsFromSmf(smf, 'x.mid')[0]!;
const split = (song: Song): Song => {
  const result = runStep(song, { operation: 'tracks.split-by-channel' });
  if (!result.ok) throw new Error(result.problem.code);
  return result.value.song;
};
const keys = (song: Song): string[] => lookOver(song).map((f) => f.key);

describe('the look-over of the demo’s files', () => {
  it('finds nothing in the clean song', () => {
    expect(keys(songOf(lanternFerry()))).toEqual([]);
  });

  // Each file's faults are those that demo/arrivals.ts plants; nothing else may be found.
  it.each([
    [
      'phone sketch',
      () => split(songOf(phoneSketch())),
      [
        'doubled t2 t3',
        'one-velocity t2',
        'one-velocity t3',
        'one-velocity t4',
        'one-velocity t5',
        'gap-before',
        'unnamed t2',
        'unnamed t3',
        'unnamed t4',
        'unnamed t5',
      ],
    ],
    [
      'instrument capture',
      () => songOf(instrumentCapture()),
      [
        'left-hanging t5',
        ...['t2', 't3', 't4', 't5'].map((t) => `programs-inside ${t}`),
        ...['t2', 't3', 't4', 't5'].map((t) => `one-velocity ${t}`),
        ...['t2', 't3', 't4', 't5'].map((t) => `foreign-controllers ${t}`),
        'system-exclusive t1',
        'bend-range t5',
        ...['t2', 't3', 't4', 't5'].map((t) => `floods ${t}`),
        'unheard-values t5',
        ...['t2', 't3', 't4', 't5'].map((t) => `idle-values ${t}`),
        ...['t2', 't3', 't4', 't5'].map((t) => `unnamed ${t}`),
      ],
    ],
    [
      'clarinet player returns',
      () => songOf(playersReturn()),
      Array.from({ length: 11 }, (_, i) => `unnamed t${i + 2}`),
    ],
    // The first of its hundreds of steps states again the tempo before it.
    ['squall ramp', () => songOf(shreddedRamp()), ['shredded', 'untidy-timing']],
    ['market groove', () => split(songOf(drumGroove())), []],
  ])('finds what was planted in %s and nothing else', (_, song, expected) => {
    expect(keys(song())).toEqual(expected);
  });

  it('finds the notes that damaged bytes spoilt in the damaged copy, in the track that has them', () => {
    const reading = readSmf(damagedCopy());
    if (!reading.ok) throw new Error(reading.problem.code);
    expect(keys(songOf(reading.value.smf)).filter((k) => k.startsWith('faulty-notes'))).toEqual([
      'faulty-notes t5',
    ]);
  });
});

describe('settling', () => {
  it('every finding of the worst file goes when its first step is taken, until nothing is left', () => {
    let song = songOf(instrumentCapture());
    for (let n = 0; n < 60; n++) {
      const finding = lookOver(song).find((f) => f.settle.length > 0);
      if (!finding) break;
      const result = runStep(song, finding.settle[0]!);
      if (!result.ok) throw new Error(result.problem.code);
      expect(keys(result.value.song)).not.toContain(finding.key);
      ({ song } = result.value);
    }
    expect(keys(song)).toEqual([]);
  });

  it('every step that is offered can be taken and changes something, on any song', () => {
    fc.assert(
      fc.property(smfFile(), (smf) => {
        const song = songOf(smf);
        for (const finding of lookOver(song)) {
          for (const step of finding.settle) {
            const result = runStep(song, step);
            if (!result.ok) expect(result.problem.code).toBe('no-track-left');
            else expect(result.value.report.changes.length, finding.key).toBeGreaterThan(0);
          }
        }
      }),
      { seed: 21, numRuns: scaleRuns(400) },
    );
  });
});

describe('speed', () => {
  it('looks 100,000 events over at four times the cost of 25,000', () => {
    const look = (many: number) => {
      const events = eventsFrom(
        Array.from({ length: many }, (_, i) =>
          channelEvent(i * 10, i % 2 ? 0x80 : 0x90, 40 + ((i >> 1) % 40), 1 + (i % 100)),
        ),
      );
      return () => lookOver(songOf({ ...lanternFerry(), tracks: [{ events: { ...events } }] }));
    };
    expect(costRatio(look(25_000), look(100_000), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});
