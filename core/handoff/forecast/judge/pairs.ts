/** Something that stands at a place, and what it says as a number. */
export interface Atom {
  readonly track: number;
  readonly row: number;
  readonly says: number;
  readonly at: number;
}

/** What of two lists answers each other, and what is left of both. */
export interface Paired {
  readonly pairs: readonly (readonly [expected: Atom, found: Atom])[];
  readonly missing: Atom[];
  readonly more: Atom[];
}

/** As near as places that are worked out in two ways can be, in ticks. */
const near = 1.5;

function bySaying(atoms: readonly Atom[]): Map<number, Atom[]> {
  const groups = new Map<number, Atom[]>();
  for (const atom of atoms) {
    const group = groups.get(atom.says);
    if (group) group.push(atom);
    else groups.set(atom.says, [atom]);
  }
  for (const group of groups.values()) group.sort((a, b) => a.at - b.at);
  return groups;
}

/**
 * Pairs what says the same at the same place. @param once what is there once answers all that say it there
 * @param within ticks that places may be apart
 */
export function exactPairs(
  expected: readonly Atom[],
  found: readonly Atom[],
  { once = false, within = near }: { once?: boolean; within?: number } = {},
): Paired {
  const pairs: [Atom, Atom][] = [];
  const missing: Atom[] = [];
  const more: Atom[] = [];
  const there = bySaying(found);
  for (const [says, wanted] of bySaying(expected)) {
    const had = there.get(says) ?? [];
    there.delete(says);
    const used = new Uint8Array(had.length);
    let j = 0;
    for (const e of wanted) {
      while (j < had.length && (had[j]!.at < e.at - within || (!once && used[j] === 1))) j++;
      // The nearest within reach, as far as it is free.
      let best = -1;
      for (let k = j; k < had.length && had[k]!.at <= e.at + within; k++) {
        if (!once && used[k] === 1) continue;
        if (best === -1 || Math.abs(had[k]!.at - e.at) < Math.abs(had[best]!.at - e.at)) best = k;
        else break;
      }
      if (best === -1) missing.push(e);
      else {
        used[best] = 1;
        pairs.push([e, had[best]!]);
      }
    }
    had.forEach((f, k) => {
      if (used[k] === 0) more.push(f);
    });
  }
  for (const rest of there.values()) more.push(...rest);
  return { pairs, missing, more };
}

/**
 * Pairs what is left in order, the nearest first where one list is longer. What is further apart than `reach`
 * ticks did not become each other.
 */
export function nearestPairs(
  expected: readonly Atom[],
  found: readonly Atom[],
  reach: number,
): Paired {
  const byPlace = (atoms: readonly Atom[]): Atom[] => [...atoms].sort((a, b) => a.at - b.at);
  const [e, f] = [byPlace(expected), byPlace(found)];
  const pairs: [Atom, Atom][] = [];
  const missing: Atom[] = [];
  const more: Atom[] = [];
  let [i, j] = [0, 0];
  while (i < e.length && j < f.length) {
    const [left, right] = [e.length - i, f.length - j];
    const apart = Math.abs(e[i]!.at - f[j]!.at);
    if (apart > reach) {
      if (e[i]!.at < f[j]!.at) missing.push(e[i++]!);
      else more.push(f[j++]!);
    } else if (right > left && Math.abs(f[j + 1]!.at - e[i]!.at) < apart) more.push(f[j++]!);
    else if (left > right && Math.abs(e[i + 1]!.at - f[j]!.at) < apart) missing.push(e[i++]!);
    else pairs.push([e[i++]!, f[j++]!]);
  }
  return { pairs, missing: [...missing, ...e.slice(i)], more: [...more, ...f.slice(j)] };
}

type GroupOf = (atom: Atom, isFound: boolean) => string;

/** What is left, by what may have become each other. */
export function grouped(
  { missing, more }: Paired,
  groupOf: GroupOf,
): { expected: Atom[]; found: Atom[] }[] {
  const groups = new Map<string, { expected: Atom[]; found: Atom[] }>();
  const groupFor = (key: string): { expected: Atom[]; found: Atom[] } => {
    let group = groups.get(key);
    if (!group) groups.set(key, (group = { expected: [], found: [] }));
    return group;
  };
  for (const e of missing) groupFor(groupOf(e, false)).expected.push(e);
  for (const f of more) groupFor(groupOf(f, true)).found.push(f);
  return [...groups.values()];
}

/** Notes answer those of their key first. */
export function byKey(
  expected: readonly Atom[],
  found: readonly Atom[],
  keyOf: (atom: Atom, isFound: boolean) => number,
  reach: number,
): Paired {
  const pairs: (readonly [Atom, Atom])[] = [];
  const missing: Atom[] = [];
  const more: Atom[] = [];
  const keys = new Set([
    ...expected.map((e) => keyOf(e, false)),
    ...found.map((f) => keyOf(f, true)),
  ]);
  for (const key of keys) {
    const some = nearestPairs(
      expected.filter((e) => keyOf(e, false) === key),
      found.filter((f) => keyOf(f, true) === key),
      reach,
    );
    pairs.push(...some.pairs);
    missing.push(...some.missing);
    more.push(...some.more);
  }
  const others = nearestPairs(missing, more, reach);
  return { pairs: [...pairs, ...others.pairs], missing: others.missing, more: others.more };
}
