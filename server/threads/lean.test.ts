import { describe, expect, it } from 'vitest';
import { askLean } from './lean.ts';

const all = ['a', 'b', 'c', 'd'];

/** A thread that has some names at hand: it does its work, or says what it lacks. */
const thread = (has: readonly string[]) => (given: readonly string[]) => {
  const lacking = all.filter((name) => !has.includes(name) && !given.includes(name));
  return lacking.length > 0 ? { lacking } : { done: true };
};

/** What threads are given, one after another, until one has done the work. */
async function given(likely: string[], ...threads: ReturnType<typeof thread>[]) {
  const asked: (readonly string[])[] = [];
  await askLean<{ done: boolean } | { lacking: string[] }>(likely, all, async (names) => {
    asked.push(names);
    return threads[asked.length - 1]!(names);
  });
  return asked;
}

describe('asking threads with as little as may be', () => {
  it('a thread that has everything is given nothing', async () => {
    expect(await given([], thread(all))).toEqual([[]]);
  });

  it('one that lacks some is given these, and once more what it was given before', async () => {
    const one = thread(['a', 'b']);
    expect(await given(['c'], one, one)).toEqual([['c'], ['c', 'd']]);
  });

  it('where another thread answers the second time, everything is given', async () => {
    expect(await given([], thread(['a', 'b', 'c']), thread(['d']), thread([]))).toEqual([
      [],
      ['d'],
      all,
    ]);
  });

  it('a thread that lacks what it was given is a defect', async () => {
    const never = () => ({ lacking: ['a'] });
    await expect(given([], never, never, never)).rejects.toThrow('lacking');
  });
});
