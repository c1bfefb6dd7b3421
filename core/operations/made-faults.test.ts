import { expect, it } from 'vitest';
import { note, songOf, take } from '../../tests/support/songs.ts';
import { channelEvent } from '../smf/events.ts';
import { runStep } from './run.ts';
import { sourceKey } from './sources.ts';

const hanging = (tick: number, key: number) => channelEvent(tick, 0x90, key, 80);

it('what hung before is none more, though it hung among notes that begin with it', () => {
  // Two of key 60 begin together, and one end: one of the two hangs, and is found as doubled.
  const song = songOf([hanging(0, 60), ...note(0, 96, 60, 70), ...note(192, 96, 62, 70)]);
  const { report } = take(song, 'notes.remove', { lowestVelocity: 75 });
  expect(report.changes).not.toEqual([]);
  expect(report.told ?? []).toEqual([]);
});

it('what hung in what came hangs here, and is said to have hung there', () => {
  const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };
  const done = runStep(
    songOf(note(0, 96, 50)),
    { operation: 'tracks.bring-in', settings: { source: name } },
    new Map([[sourceKey(name), songOf([hanging(0, 60), hanging(96, 62), ...note(200, 9, 1)])]]),
  );
  if (!done.ok) throw new Error(done.problem.code);
  expect(done.value.report.told).toEqual([
    'Of the notes that came, as they were there: 2 hanging. Repair notes mends that.',
  ]);
});
