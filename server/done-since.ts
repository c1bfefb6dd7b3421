import { wayTo } from './store/moving-head.ts';

/** Sentences at most; a long history says how many more. */
const mostSaid = 20;

/**
 * What was done to a song between one of its revisions and its head, oldest first: what was taken back, then
 * what was done.
 */
export function doneSince(
  revision: number,
  head: number,
  parents: ReadonlyMap<number, number | null>,
  described: ReadonlyMap<number, string>,
): string[] {
  const [then, now] = [wayTo(parents, revision), wayTo(parents, head)];
  const [before, after] = [new Set(then), new Set(now)];
  const undone = then.filter((r) => !after.has(r)).map((r) => `Undone: ${described.get(r) ?? ''}`);
  const done = now.filter((r) => !before.has(r)).map((r) => described.get(r) ?? '');
  const all = [...undone, ...done.reverse()];
  return all.length <= mostSaid
    ? all
    : [...all.slice(0, mostSaid), `and ${all.length - mostSaid} steps more`];
}
