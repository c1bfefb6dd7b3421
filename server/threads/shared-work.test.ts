import { describe, expect, it } from 'vitest';
import { SharedWork } from './shared-work.ts';

/** Work that ends when the test says so. */
function working() {
  const signals: AbortSignal[] = [];
  const ends: { resolve: (value: string) => void; reject: (error: Error) => void }[] = [];
  const work = (signal: AbortSignal): Promise<string> => {
    signals.push(signal);
    return new Promise((resolve, reject) => ends.push({ resolve, reject }));
  };
  return { work, signals, ends };
}
const never = (): AbortSignal => new AbortController().signal;

describe('work that several ask for', () => {
  it('is done once while it goes on, and again when it is over', async () => {
    const shared = new SharedWork<string>();
    const { work, signals, ends } = working();
    const both = [shared.ask('a', work, never()), shared.ask('a', work, never())];
    const other = shared.ask('b', work, never());
    expect(signals).toHaveLength(2);
    ends[0]!.resolve('chords');
    ends[1]!.resolve('keys');
    expect(await Promise.all([...both, other])).toEqual(['chords', 'chords', 'keys']);
    void shared.ask('a', work, never());
    expect(signals).toHaveLength(3);
  });

  it('goes on while one still waits, and is stopped with the last', async () => {
    const shared = new SharedWork<string>();
    const { work, signals } = working();
    const [one, two] = [new AbortController(), new AbortController()];
    const answers = [shared.ask('a', work, one.signal), shared.ask('a', work, two.signal)];
    one.abort(new Error('closed'));
    await expect(answers[0]).rejects.toThrow('closed');
    expect(signals[0]!.aborted).toBe(false);
    two.abort(new Error('closed'));
    await expect(answers[1]).rejects.toThrow('closed');
    expect(signals[0]!.aborted).toBe(true);
    // Who asks now does not get what was stopped.
    void shared.ask('a', work, never());
    expect(signals).toHaveLength(2);
  });

  it('fails for all where it fails, and is begun again', async () => {
    const shared = new SharedWork<string>();
    const { work, signals, ends } = working();
    const both = [shared.ask('a', work, never()), shared.ask('a', work, never())];
    ends[0]!.reject(new Error('no memory'));
    for (const answer of both) await expect(answer).rejects.toThrow('no memory');
    void shared.ask('a', work, never());
    expect(signals).toHaveLength(2);
  });
});
