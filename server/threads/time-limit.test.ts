import { existsSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { describe, expect, it } from 'vitest';
import { announce, newAnnouncement, threadMs } from './thread-time.ts';
import { TimeLimit } from './time-limit.ts';

const hasThreadTime = existsSync('/proc/thread-self/schedstat');

/** Uses processor time of this thread. */
function work(ms: number): void {
  const said = newAnnouncement();
  announce(said);
  const until = said[1]! + ms;
  while (threadMs(said[0]!)! < until);
}

describe.runIf(hasThreadTime)('the time that a task may take', () => {
  it('is processor time: waiting counts for nothing, work before the task neither', async () => {
    work(80);
    const limit = new TimeLimit(60);
    announce(limit.announced);
    await wait(300);
    expect(limit.signal.aborted).toBe(false);
    work(70);
    await wait(100);
    expect(limit.signal.aborted).toBe(true);
    limit.end();
  });

  it('is looked at no more once the task is over', async () => {
    const limit = new TimeLimit(40);
    announce(limit.announced);
    limit.end();
    work(60);
    await wait(100);
    expect(limit.signal.aborted).toBe(false);
  });
});
