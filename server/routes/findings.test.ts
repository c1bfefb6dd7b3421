import { EventEmitter } from 'node:events';
import { describe, expect, it } from 'vitest';
import type { Services } from '../services.ts';
import { findingHandlers } from './findings.ts';

/** Services in which looking over ends when the test says so. */
function servicesWith() {
  const signals: AbortSignal[] = [];
  const ends: (() => void)[] = [];
  const revision = { songId: 'song', number: 4, manifest: { tracks: [{ blob: 'a' }] } };
  const services = {
    songs: {
      find: async () => ({ record: { id: 'song', head: 4 }, revision }),
      leftAlone: async () => new Set(),
      noteLooked: async () => undefined,
      blobs: { read: async () => new Map() },
    },
    facts: { read: async () => new Map(), known: async () => new Map(), keep: () => undefined },
    pool: {
      run: (_: string, __: unknown, { signal }: { signal: AbortSignal }) =>
        new Promise((resolve, reject) => {
          signals.push(signal);
          signal.addEventListener('abort', () => reject(signal.reason as Error));
          ends.push(() => resolve({ ok: true, value: { findings: [], facts: [] } }));
        }),
    },
  } as unknown as Services;
  return { handlers: findingHandlers(services), signals, ends };
}

const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
const respond = () => Object.assign(new EventEmitter(), { writableFinished: false });

describe('looking over', () => {
  it('is done once for all who ask for it, and stopped when all of them have gone', async () => {
    const { handlers, signals, ends } = servicesWith();
    const ask = (response: EventEmitter) =>
      handlers.listFindings({ params: { id: 'song' }, response } as never);
    const [one, two] = [respond(), respond()];
    const answers = [ask(one), ask(two)];
    await settle();
    expect(signals).toHaveLength(1);
    one.emit('close');
    await expect(answers[0]).rejects.toMatchObject({ name: 'AbortError' });
    expect(signals[0]!.aborted).toBe(false);
    two.emit('close');
    await expect(answers[1]).rejects.toMatchObject({ name: 'AbortError' });
    expect(signals[0]!.aborted).toBe(true);
    // It is begun again for who asks now, and kept for who asks later.
    const later = ask(respond());
    await settle();
    ends[1]!();
    await expect(later).resolves.toMatchObject({ revision: 4, findings: [] });
    await ask(respond());
    expect(signals).toHaveLength(2);
  });
});
