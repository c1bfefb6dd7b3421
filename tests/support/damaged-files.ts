import { expect } from 'vitest';
import { readSmf } from '#core/smf/read.ts';
import { say } from '#core/problems/sentences.ts';
import { sameEvents } from '#core/smf/compare.ts';
import { workedFormat0, workedFormat1 } from '#core/smf/worked-examples.ts';
import { fitsFormat, writeSmf } from '#core/smf/write.ts';
import { demoFiles } from '#demo/files.ts';
import { dice } from '#demo/theory.ts';
import { costRatio } from './cost.ts';
import { mutate } from './mutate.ts';
import { scaleRuns } from './scale.ts';

/** 100,000 damaged files in the deep run; `SATCHEL_MUTANTS` sets another number, the seed stands in the title. */
const total = Number(process.env.SATCHEL_MUTANTS ?? scaleRuns(100_000));
/** Seeds of the damage, in two files so that two workers read them. */
export const seeds = [1, 2, 3, 4] as const;

export const title =
  'are salvaged with an account or refused with a reason, none at many times the cost of others, and what was salvaged can be written (seed %i)';

const small = demoFiles.find((f) => f.name === 'market groove.mid')!.bytes();
const middle = demoFiles.find((f) => f.name === 'phone sketch.mid')!.bytes();
const sources = [workedFormat0, workedFormat1, small, small, middle];

/** Spends so many microseconds of processor time. */
const spend = (micros: number) => () => {
  const before = process.cpuUsage();
  while (process.cpuUsage(before).user < micros);
};

/** Reads files that were damaged by one seed, and holds what came of each against the laws of salvage. */
export function readDamaged(seed: number): void {
  const chance = dice(seed);
  let cost = 0;
  let dearest = { file: workedFormat0 as Uint8Array, cost: 0 };
  for (let n = 0; n < total / seeds.length; n++) {
    const source = sources[n % sources.length]!;
    const file = mutate(source, chance);
    const before = process.cpuUsage();
    const reading = readSmf(file);
    const { user, system } = process.cpuUsage(before);
    cost += user + system;
    if (user + system > dearest.cost) dearest = { file, cost: user + system };
    if (!reading.ok) {
      expect(say(reading.problem).remedy.length).toBeGreaterThan(0);
      continue;
    }
    const { smf, problems } = reading.value;
    // Nothing is mended in silence: a track that lost its very bytes has a problem that says why.
    if (smf.tracks.some((t) => t.body === undefined) && problems.length === 0)
      throw new Error(`silent, seed ${seed}, file ${n}`);
    const events = smf.tracks.reduce((sum, t) => sum + t.events.count, 0);
    if (events > file.length) throw new Error(`more events than bytes, seed ${seed}, file ${n}`);
    if (n % 10 === 0 && smf.tracks.every((t) => fitsFormat(t.events))) {
      const back = readSmf(writeSmf(smf));
      if (
        !back.ok ||
        back.value.smf.tracks.some((t, i) => !sameEvents(t.events, smf.tracks[i]!.events))
      )
        throw new Error(`not written back, seed ${seed}, file ${n}`);
    }
  }
  // None costs many times what the damaged files cost on average, read again to leave out what was by chance.
  const average = cost / (total / seeds.length);
  const again = costRatio(spend(average), () => readSmf(dearest.file), 400);
  expect(again).toBeLessThan(400);
}
