import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import { settingsDigest } from '../../tools/settings-digest.ts';
import { songOf, take } from '../../tests/support/songs.ts';
import { timingOf } from '../song/timing-of.ts';
import { operations, stepNow } from './index.ts';
import { runStep } from './run.ts';

/**
 * Written by `npm run docs`: id, version and a digest of the settings' schema of each operation as it was
 * published.
 */
const published = JSON.parse(
  readFileSync(new URL('versions.json', import.meta.url), 'utf8'),
) as Record<string, { version: number; settings: string }>;
describe('versions of operations', () => {
  it.each(operations.map((o) => [o.id, o] as const))(
    '%s: its settings are those that were published under its version',
    (id, { version, settings }) => {
      expect(published[id], 'npm run docs notes a new operation').toBeDefined();
      expect(
        { version, settings: settingsDigest(settings) },
        'where settings change, the version rises, and upgrade reads the older ones; then npm run docs',
      ).toEqual(published[id]);
    },
  );

  it('none that was published has gone', () => {
    expect(Object.keys(published).filter((id) => !operations.some((o) => o.id === id))).toEqual([]);
  });

  const inSixEight = songOf([
    metaEvent(0, meta.timeSignature, Uint8Array.of(6, 3, 36, 8)),
    channelEvent(0, 0x90, 60, 64),
    channelEvent(96, 0x80, 60, 64),
  ]);
  const tempoAfter = (version: number | undefined): number => {
    const done = runStep(inSixEight, {
      operation: 'timing.tempo',
      version,
      settings: { bpm: 60, of: 'beat' },
    });
    if (!done.ok) throw new Error(done.problem.code);
    return timingOf(done.value.song).tempos[0]!.tempo;
  };

  it('a tempo’s beat is the one that its meter is counted in; settings of version 1 still mean the note of the meter', () => {
    // 60 beats a minute: a second for a dotted quarter is 666,667 µs a quarter; a second for an eighth is
    // 2,000,000 (hand-worked).
    expect([tempoAfter(undefined), tempoAfter(2), tempoAfter(1)]).toEqual([
      666_667, 666_667, 2_000_000,
    ]);
  });

  it('a recipe’s steps are read by their version, and say the newest when they are shown', () => {
    const step = {
      operation: 'timing.tempo',
      version: 1,
      settings: { bpm: 60, of: 'beat' },
      who: 'all' as const,
    };
    expect(stepNow(step)).toEqual({
      ...step,
      version: 2,
      settings: { bpm: 60, of: 'note of the meter' },
    });
    expect(
      timingOf(take(inSixEight, 'recipe.run', { name: 'Slow', steps: [step] }).song).tempos[0]!
        .tempo,
    ).toBe(2_000_000);
    expect(stepNow({ ...step, operation: 'gone.by' })).toEqual({ ...step, operation: 'gone.by' });
  });

  it('of a version that is not there yet nothing is guessed', () => {
    const done = runStep(inSixEight, { operation: 'timing.tempo', version: 9, settings: {} });
    expect(done.ok ? 'done' : done.problem).toEqual({
      code: 'settings-invalid',
      where: { field: 'version' },
      expected: 'at most 2',
      found: '9',
    });
  });
});
