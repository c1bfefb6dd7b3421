import { describe, expect, it } from 'vitest';
import { plainEvents, readIndependently } from '../tests/support/independent.ts';
import { readSmf } from '#core/smf/read.ts';
import { notesOf } from '#core/song/notes.ts';
import { songsFromSmf } from '#core/song/from-smf.ts';
import { barCells } from '#core/song/cells.ts';
import { meterMap } from '#core/timing/meter-map.ts';
import { timingOf } from '#core/song/timing-of.ts';
import { writeSmf } from '#core/smf/write.ts';
import { demoFiles } from './files.ts';

function read(bytes: Uint8Array) {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  return reading.value;
}

describe('the demo files', () => {
  it.each(demoFiles.filter((f) => f.name !== 'damaged copy.mid').map((f) => [f.name, f] as const))(
    '%s is made alike every time, reads cleanly, goes out byte for byte, and an independent reader agrees',
    (_, f) => {
      const bytes = f.bytes();
      expect(f.bytes()).toEqual(bytes);
      const { smf, problems } = read(bytes);
      expect(problems).toEqual([]);
      expect(writeSmf(smf)).toEqual(bytes);
      expect(readIndependently(bytes).tracks).toEqual(smf.tracks.map((t) => plainEvents(t.events)));
    },
  );

  it('the whole piece has 120 bars of 4/4, 7/8 and 3/4, twelve parts, no note hanging', () => {
    const song = songsFromSmf(read(demoFiles[0]!.bytes()).smf, demoFiles[0]!.name)[0]!;
    const timing = timingOf(song);
    expect(song.tracks).toHaveLength(13);
    expect(barCells(meterMap(timing.meters, song.division), timing.endTick).bars).toBe(120);
    expect(timing.meters.map((m) => `${m.numerator}/${m.denominator}`)).toEqual([
      '4/4',
      '7/8',
      '3/4',
      '7/8',
      '4/4',
    ]);
    expect(timing.smpteOffset).toMatchObject({ framesPerSecond: 25, hours: 1 });
    for (const track of song.tracks) expect(notesOf(track.events).off.includes(-1)).toBe(false);
  });

  it('the damaged copy is salvaged: all of the tracks before the cut, each fault told', () => {
    const { smf, problems } = read(demoFiles.at(-1)!.bytes());
    expect(smf.tracks).toHaveLength(13);
    expect(problems.map((p) => `${p.code} ${p.where.track}`)).toEqual([
      'chunk-length 3',
      'data-byte-high 5',
      'chunk-cut 13',
      'end-of-track-missing 13',
    ]);
  });
});
