/** Events by what they say, with the ticks at which they stand, in any order. */
export class Atoms {
  private readonly ticks = new Map<string, number[]>();

  add(what: string, tick: number): void {
    const there = this.ticks.get(what);
    if (there) there.push(tick);
    else this.ticks.set(what, [tick]);
  }

  /**
   * What stands here and not in the other, or elsewhere by more than `most` ticks: its kind, tick and which
   * of both has it.
   */
  against(other: Atoms, most: number): string[] {
    const found: string[] = [];
    for (const what of new Set([...this.ticks.keys(), ...other.ticks.keys()])) {
      // The nearest ticks answer each other first, so that what is said once more beside them is what is left.
      const near = unanswered(inOrder(this.ticks.get(what)), inOrder(other.ticks.get(what)), 0.5);
      const [mine, theirs] = most === 0 ? near : unanswered(...near, most);
      found.push(
        ...mine.map((tick) => `lacks ${what} at tick ${tick}`),
        ...theirs.map((tick) => `has ${what} at tick ${tick}`),
      );
    }
    return found;
  }
}

type Ticks = readonly number[];

/** The ticks of two lists in order that have no answer in the other one. */
function unanswered(one: Ticks, other: Ticks, most: number): [Ticks, Ticks] {
  const left: [number[], number[]] = [[], []];
  for (let i = 0, j = 0; i < one.length || j < other.length;) {
    const [a, b] = [one[i] ?? Infinity, other[j] ?? Infinity];
    if (Math.abs(a - b) <= most) {
      i++;
      j++;
    } else if (a < b) left[0].push(one[i++]!);
    else left[1].push(other[j++]!);
  }
  return left;
}

const inOrder = (ticks: Ticks = []): Ticks => ticks.toSorted((a, b) => a - b);
