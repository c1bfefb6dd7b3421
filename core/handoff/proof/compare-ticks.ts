/** What differs between what was expected and what is there: whose, what and where. */
export interface Difference {
  readonly state: 'lacks' | 'has';
  /** Id of a track; `song` of what belongs to none. */
  readonly owner: string;
  readonly what: string;
  readonly tick: number;
}

interface Said {
  readonly owner: string;
  readonly what: string;
  readonly ticks: number[];
}

/** Events by whose they are and what they say, with the ticks at which they stand, in any order. */
export class TickLists {
  private readonly lists = new Map<string, Said>();

  add(owner: string, what: string, tick: number): void {
    const key = `${owner}\n${what}`;
    const there = this.lists.get(key);
    if (there) there.ticks.push(tick);
    else this.lists.set(key, { owner, what, ticks: [tick] });
  }

  /** What stands here and not in the other, or further off than `reach` ticks, and the reverse. */
  compare(other: TickLists, reach: number): Difference[] {
    const found: Difference[] = [];
    for (const key of new Set([...this.lists.keys(), ...other.lists.keys()])) {
      const [one, two] = [this.lists.get(key), other.lists.get(key)];
      const { owner, what } = (one ?? two)!;
      // The nearest ticks answer each other first, so that what is said once more beside them is what is left.
      const near = unanswered(inOrder(one?.ticks), inOrder(two?.ticks), 0.5);
      const [mine, theirs] = reach === 0 ? near : unanswered(...near, reach);
      for (const tick of mine) found.push({ state: 'lacks', owner, what, tick });
      for (const tick of theirs) found.push({ state: 'has', owner, what, tick });
    }
    return found;
  }
}

type Ticks = readonly number[];

/** The ticks of two lists in order that have no answer in the other one. */
function unanswered(one: Ticks, other: Ticks, reach: number): [Ticks, Ticks] {
  const left: [number[], number[]] = [[], []];
  for (let i = 0, j = 0; i < one.length || j < other.length;) {
    const [a, b] = [one[i] ?? Infinity, other[j] ?? Infinity];
    if (Math.abs(a - b) <= reach) {
      i++;
      j++;
    } else if (a < b) left[0].push(one[i++]!);
    else left[1].push(other[j++]!);
  }
  return left;
}

const inOrder = (ticks: Ticks = []): Ticks => ticks.toSorted((a, b) => a - b);
