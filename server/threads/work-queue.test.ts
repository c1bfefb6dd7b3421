import { describe, expect, it } from 'vitest';
import { WorkQueue, type Urgency } from './work-queue.ts';

/** A queue of three places whose work ends when the test says so; `begun` is what has begun, in order. */
function queueOf(places = 3, maxWaiting = 200) {
  const queue = new WorkQueue(places, maxWaiting);
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  const ask = async (name: string, urgency: Urgency, signal?: AbortSignal): Promise<void> => {
    const end = await queue.enter(urgency, signal);
    if (!end) throw new Error('busy');
    begun.push(name);
    ends.set(name, end);
  };
  /** Lets promises that are settled go on. */
  const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
  const end = async (name: string): Promise<void> => {
    ends.get(name)!();
    await settle();
  };
  return { queue, begun, ask, end, settle };
}

describe('who works next', () => {
  it('two heavy tasks at work and ten waiting: each of twenty light ones is begun before the next heavy one', async () => {
    const { begun, ask, end, settle } = queueOf();
    for (let n = 1; n <= 12; n++) void ask(`heavy ${n}`, n % 2 ? 'background' : 'heavy');
    await settle();
    expect(begun).toEqual(['heavy 1', 'heavy 2']);
    for (let n = 1; n <= 20; n++) {
      void ask(`light ${n}`, 'light');
      await settle();
      expect(begun.at(-1)).toBe(`light ${n}`);
      await end(`light ${n}`);
    }
    expect(begun.filter((name) => name.startsWith('heavy'))).toHaveLength(2);
  });

  it('light work first, then what is waited for, then what the page began; each by when it came', async () => {
    const { begun, ask, end, settle } = queueOf(2);
    void ask('first', 'heavy');
    void ask('busy', 'light');
    for (const urgency of ['background', 'heavy', 'light'] as const)
      for (const n of [1, 2]) void ask(`${urgency} ${n}`, urgency);
    await settle();
    // The place of light work: heavy work does not take it.
    await end('busy');
    await end('light 1');
    await end('light 2');
    expect(begun).toEqual(['first', 'busy', 'light 1', 'light 2']);
    await end('first');
    await end('heavy 1');
    await end('heavy 2');
    await end('background 1');
    expect(begun.slice(4)).toEqual(['heavy 1', 'heavy 2', 'background 1', 'background 2']);
  });

  it('whoever no longer waits leaves the queue, and does not take a place', async () => {
    const { queue, begun, ask, end, settle } = queueOf(2);
    await ask('first', 'heavy');
    const gone = new AbortController();
    const left = ask('gone', 'heavy', gone.signal);
    void ask('next', 'heavy');
    await settle();
    gone.abort(new Error('no longer'));
    await expect(left).rejects.toThrow('no longer');
    expect(queue.size).toBe(1);
    await end('first');
    expect(begun).toEqual(['first', 'next']);
    await expect(ask('late', 'light', gone.signal)).rejects.toThrow('no longer');
  });

  it('where as many wait as may, nobody more is let in; a place given back twice is one place', async () => {
    const { queue, begun, ask, end, settle } = queueOf(2, 1);
    await ask('first', 'heavy');
    void ask('waits', 'heavy');
    await expect(ask('too many', 'light')).rejects.toThrow('busy');
    await end('first');
    await end('first');
    void ask('third', 'heavy');
    await settle();
    expect([begun, queue.size]).toEqual([['first', 'waits'], 1]);
  });
});
