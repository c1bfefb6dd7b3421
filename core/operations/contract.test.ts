import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { exampleSources } from '../../tests/support/examples.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { isDeep, scaleRuns } from '../../tests/support/scale.ts';
import { madeSong, scopeIn } from '../../tests/support/made-songs.ts';
import type { Scope } from '../song/scope.ts';
import type { Song, Track } from '../song/song.ts';
import { operations } from './index.ts';
import { noteFaults } from '../edit/note-faults.ts';
import { faultCount } from '../edit/note-faults.ts';
import type { Operation } from './operation.ts';
import { runStep, type StepResult } from './run.ts';

/**
 * What whoever takes a step can rely on, whatever the operation: read this as the contract of one. Every
 * example of every operation is taken on songs made at random, with scopes at random where the example has
 * none of its own.
 */
const songs = scaleRuns(120);
/** Of the songs, each example changes so many at least; those that are about something rarer say so below. */
const leastShare = 0.15;
const rarer: Readonly<Record<string, number>> = {
  // A few songs are in ticks of frames.
  'timing.to-quarters {}': 0.03,
  'timing.to-quarters {"bpm":90,"ppq":960}': 0.03,
  // Few songs have a spare track.
  'tracks.remove-empty {}': 0.05,
  // Few parts have chords of three notes and more.
  'notes.voicing {"how":"thin","voices":3}': 0,
  'notes.voicing {"how":"drop the second voice"}': 0.02,
  // No lyric or text of these songs is a chord, but for those of the chord line.
  'chords.set {"from":"texts"}': 0,
  'chords.set {"from":"nothing"}': 0.03,
  // Most songs begin with that tempo.
  'timing.tempos {"points":[{"atTick":0,"tempo":500000}]}': 0.01,
  // Most parts sound over each other, or have parked lanes.
  'tracks.join {}': 0.05,
  // It names a row that is no note; the notes screen's own tests move notes by it.
  'notes.shift {"rows":{"t1":[[0,0]]},"keys":1}': 0,
  // The same; edit-several.test.ts edits events of every kind.
  'events.edit-several {"rows":{"t1":[[0,1]]},"channel":3}': 0,
};
/**
 * They may change tracks that they are not asked about: what of the song's time stood in a track that goes,
 * or whose time moves, comes into the first; notes may go to any track that is named; the chord line is the song's.
 */
const reachesTheFirst =
  /^(tracks\.(remove|merge|split)|notes\.(to-track|double|transpose)|chords\.set)/;
/**
 * Where parts of a channel part, those that stay are given what they heard of those that go (held by
 * tracks/instrument/instrument.test.ts).
 */
const givesToOthers = /^tracks\.instrument$/;

interface Taken {
  readonly before: Song;
  readonly scope: Scope;
  readonly done: StepResult;
}

const examples = operations.flatMap((operation) =>
  operation.examples.map((example) => ({
    operation,
    example,
    name: `${operation.id} ${JSON.stringify(example.settings)}`,
  })),
);

/** What came of an example on each song that did not refuse it. */
function takenOn({
  operation,
  example,
}: {
  operation: Operation;
  example: Operation['examples'][number];
}): Taken[] {
  const asked = madeSong.chain((song) =>
    fc.tuple(
      fc.constant(song),
      example.scope ? fc.constant(example.scope) : scopeIn(song, operation.scope === 'events'),
    ),
  );
  return fc.sample(asked, { seed: 51, numRuns: songs }).flatMap(([before, scope]): Taken[] => {
    const done = runStep(
      before,
      { operation: operation.id, settings: example.settings, scope },
      exampleSources,
    );
    return done.ok ? [{ before, scope, done: done.value }] : [];
  });
}

const plain = ({ tracks, ...rest }: Song): unknown => [
  rest,
  tracks.map((t) => [t.id, t.parked, plainEvents(t.events)]),
];
const inScope = (scope: Scope, track: Track): boolean =>
  scope.tracks === 'all' || scope.tracks.includes(track.id);
const faultsIn = ({ tracks }: Song): number =>
  tracks.reduce((sum, t) => sum + faultCount(noteFaults(t.events)), 0);

describe('the contract of an operation', () => {
  it.each(examples.map((e) => [e.name, e] as const))('%s', (name, example) => {
    const all = takenOn(example);
    const changed = all.filter(({ done }) => done.report.changes.length > 0);
    // It does something, to a share of all songs: of few songs it may be none.
    if (isDeep) expect(changed.length / songs).toBeGreaterThanOrEqual(rarer[name] ?? leastShare);
    for (const { before, scope, done } of all) {
      const after = done.song;
      const old = new Map(before.tracks.map((t) => [t.id, t]));
      const named = new Set(done.report.changes.map((c) => c.track));
      // Where it says that it changed nothing, the song is the very one it was given.
      if (done.report.changes.length === 0) expect(after).toBe(before);
      for (const track of after.tracks) {
        const had = old.get(track.id);
        // A track that its report does not name is the same object as before, and every new one is named.
        if (!named.has(track.id)) expect(track).toBe(had);
        // Nor is one touched that it was not asked about.
        if (
          had &&
          example.operation.scope !== 'song' &&
          !inScope(scope, had) &&
          !reachesTheFirst.test(example.operation.id) &&
          !givesToOthers.test(example.operation.id)
        )
          expect(track).toBe(had);
        // Each ends with its only end of track, at or behind everything.
        expect(plainEvents(track.events).filter((e) => e.includes(' ff2f'))).toHaveLength(1);
      }
      // It makes no fault in notes that its report does not tell.
      if (faultsIn(after) > faultsIn(before))
        expect(JSON.stringify(done.report)).toMatch(/more than before/);
      // Its settings, as they were checked and filled in, say the same step again.
      const again = runStep(
        before,
        {
          operation: done.operation.id,
          version: done.operation.version,
          settings: JSON.parse(JSON.stringify(done.settings)) as unknown,
          scope: done.scope,
        },
        exampleSources,
      );
      expect(
        again.ok && [plain(again.value.song), again.value.report, again.value.described],
      ).toEqual([plain(after), done.report, done.described]);
    }
  });
});
