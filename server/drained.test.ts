import { Writable } from 'node:stream';
import { describe, expect, it } from 'vitest';
import { drained } from './drained.ts';

describe('waiting for a slow reader', () => {
  it('ends when there is room or nobody reads, and leaves nothing that listens', async () => {
    let taken: () => void = () => undefined;
    const slow = new Writable({ highWaterMark: 1, write: (_, __, done) => (taken = done) });
    for (let n = 0; n < 30; n++) {
      expect(slow.write('more')).toBe(false);
      const waited = drained(slow);
      taken();
      await waited;
    }
    slow.write('the last');
    const given = drained(slow);
    slow.destroy();
    await given;
    expect(['drain', 'close', 'error'].map((name) => slow.listenerCount(name))).toEqual([0, 0, 0]);
  });
});
