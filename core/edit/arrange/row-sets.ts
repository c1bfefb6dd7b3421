const none: ReadonlySet<number> = new Set();

/** Rows for each of many stretches, most of which have none. */
export class RowSets {
  private readonly sets = new Map<number, Set<number>>();

  add(stretch: number, row: number): void {
    const its = this.sets.get(stretch);
    if (its) its.add(row);
    else this.sets.set(stretch, new Set([row]));
  }

  of = (stretch: number): ReadonlySet<number> => this.sets.get(stretch) ?? none;
}
