import type { Lacking } from '#core/work/ports.ts';

const isLacking = (answer: object): answer is Lacking => 'lacking' in answer;

/**
 * Asks a thread with as little as may be, and with what it turns out to lack: copying hundreds of tracks to
 * a thread that has them costs more than most steps. Another thread may answer the second time and lack
 * others; then everything is given.
 *
 * @param likely what no thread is likely to have @param all everything @param ask is given names of blobs
 *   to send along
 */
export async function askLean<T extends object>(
  likely: readonly string[],
  all: readonly string[],
  ask: (blobs: readonly string[]) => Promise<T>,
): Promise<Exclude<T, Lacking>> {
  let wanted = likely;
  for (let time = 1; time <= 3; time++) {
    const answer = await ask(wanted);
    if (!isLacking(answer)) return answer as Exclude<T, Lacking>;
    wanted = time === 1 ? [...likely, ...answer.lacking] : all;
  }
  throw new Error('What was given is lacking');
}
