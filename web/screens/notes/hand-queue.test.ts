import { expect, it } from 'vitest';
import { queued, waitingNudge, type Act } from './hand-queue.ts';

const nudge = (ticks: number, rests = true): Act => ({
  kind: 'nudge',
  nudge: { ticks, keys: 1, lengthen: 2, louder: -3 },
  rests,
});
const all = (...acts: Act[]): Act[] => acts.reduce<Act[]>((queue, act) => queued(queue, act), []);

it('moves of the same notes become one, and notes drawn one after the other too; what lies between keeps them apart', () => {
  expect(all(nudge(24), nudge(24), nudge(-1, false))).toEqual([
    { kind: 'nudge', nudge: { ticks: 47, keys: 3, lengthen: 6, louder: -9 }, rests: false },
  ]);
  expect(all(nudge(24), { kind: 'go', by: 1 }, nudge(24)).map((a) => a.kind)).toEqual([
    'nudge',
    'go',
    'nudge',
  ]);
  const note = { track: 't1', atTick: 0, length: 24, key: 60, velocity: 80 };
  expect(
    all({ kind: 'draw', notes: [note] }, { kind: 'draw', notes: [{ ...note, key: 62 }] }),
  ).toEqual([{ kind: 'draw', notes: [note, { ...note, key: 62 }] }]);
});

it('what is shown is what was sent and what waits for the same notes', () => {
  const sent = { ticks: 100, keys: 0, lengthen: 0, louder: 5 };
  expect(waitingNudge(all(nudge(24)), sent)).toEqual({
    ticks: 124,
    keys: 1,
    lengthen: 2,
    louder: 2,
  });
  expect(waitingNudge(all({ kind: 'go', by: 1 }, nudge(24)), sent)).toEqual(sent);
  expect(waitingNudge([], undefined)).toBeUndefined();
});
