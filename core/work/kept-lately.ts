import type { Kept } from './ports.ts';

interface Entry<T> {
  readonly value: T;
  readonly size: number;
  used: number;
}

/** How much is dropped at a time, once the limit is passed: looking for the oldest costs as much as there is. */
const droppedAtOnce = 1 / 8;

/** Values by name, those used lately, up to a size in all. What is dropped is made or asked for again. */
export class KeptLately<T> implements Kept<T> {
  private readonly kept = new Map<string, Entry<T>>();
  private readonly most: number;
  private readonly sizeOf: (value: T) => number;
  private size = 0;
  private uses = 0;

  /** @param most size of all together, as `sizeOf` measures each */
  constructor(most: number, sizeOf: (value: T) => number) {
    this.most = most;
    this.sizeOf = sizeOf;
  }

  get(name: string): T | undefined {
    const entry = this.kept.get(name);
    if (!entry) return undefined;
    entry.used = ++this.uses;
    return entry.value;
  }

  set(name: string, value: T): void {
    this.drop(name);
    const size = this.sizeOf(value);
    if (size > this.most) return;
    this.kept.set(name, { value, size, used: ++this.uses });
    this.size += size;
    if (this.size > this.most) this.dropOldest();
  }

  /** Drops those that were not used for longest; never the newest. */
  private dropOldest(): void {
    const oldestFirst = [...this.kept].sort(([, a], [, b]) => a.used - b.used);
    for (const [name] of oldestFirst.slice(0, -1)) {
      if (this.size <= this.most * (1 - droppedAtOnce)) break;
      this.drop(name);
    }
  }

  private drop(name: string): void {
    const entry = this.kept.get(name);
    if (!entry) return;
    this.kept.delete(name);
    this.size -= entry.size;
  }
}
