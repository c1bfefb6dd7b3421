import { describe, expect, it } from 'vitest';
import { readSmf } from '#core/smf/read.ts';
import { demoFiles } from '#demo/files.ts';
import { dice } from '#demo/theory.ts';
import { readDamaged, seeds, title } from '../support/damaged-files.ts';
import { mutate } from '../support/mutate.ts';
import { scaleRuns, scaleTimeout } from '../support/scale.ts';

describe('mutated files', () => {
  it.each(seeds.slice(0, 2))(title, readDamaged, scaleTimeout(900_000));

  it('the whole piece, damaged in two thousand ways, is read in bounded time', () => {
    const chance = dice(5);
    const file = demoFiles[0]!.bytes();
    for (let n = 0; n < scaleRuns(2000); n++) {
      const reading = readSmf(mutate(file, chance));
      if (reading.ok) expect(reading.value.smf.tracks.length).toBeLessThan(200);
    }
  }, 900_000);
});
