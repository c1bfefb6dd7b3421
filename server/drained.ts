import { once } from 'node:events';
import type { Writable } from 'node:stream';

/** Until more can be written, or nobody reads any more; whatever comes, nothing goes on listening. */
export async function drained(to: Writable): Promise<void> {
  const over = new AbortController();
  const { signal } = over;
  await Promise.race([once(to, 'drain', { signal }), once(to, 'close', { signal })]).finally(() =>
    over.abort(),
  );
}
