import type { Kept } from './ports.ts';

/** Values by key, those used lately, up to a size in all. What is dropped is made or asked for again. */
export class KeptLately<T> implements Kept<T> {
  private readonly kept = new Map<string, T>();
  private readonly most: number;
  private readonly sizeOf: (value: T) => number;
  private size = 0;

  /** @param most size of all together, as `sizeOf` measures each */
  constructor(most: number, sizeOf: (value: T) => number) {
    this.most = most;
    this.sizeOf = sizeOf;
  }

  get(key: string): T | undefined {
    const value = this.kept.get(key);
    if (value === undefined) return undefined;
    this.kept.delete(key);
    this.kept.set(key, value);
    return value;
  }

  set(key: string, value: T): void {
    this.drop(key);
    const size = this.sizeOf(value);
    if (size > this.most) return;
    this.kept.set(key, value);
    this.size += size;
    for (const oldest of this.kept.keys()) {
      if (this.size <= this.most) break;
      this.drop(oldest);
    }
  }

  private drop(key: string): void {
    const value = this.kept.get(key);
    if (value === undefined) return;
    this.kept.delete(key);
    this.size -= this.sizeOf(value);
  }
}
