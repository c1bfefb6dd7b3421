import { newAnnouncement, threadMs, type Announced } from './thread-time.ts';

/** Where no processor time is known, a task may take so many times as long by the clock. */
const clockFactor = 10;

/**
 * Stops a task that has used more processor time than it may, however long it waited and whatever else the
 * machine does.
 */
export class TimeLimit {
  readonly announced: Announced = newAnnouncement();
  private readonly stop = new AbortController();
  private readonly timer: NodeJS.Timeout;
  private readonly maxMs: number;
  private readonly began = performance.now();

  constructor(maxMs: number) {
    this.maxMs = maxMs;
    this.timer = setInterval(() => this.check(), Math.min(250, Math.max(5, maxMs / 8)));
    this.timer.unref();
  }

  get signal(): AbortSignal {
    return this.stop.signal;
  }

  /** The task is over. */
  end(): void {
    clearInterval(this.timer);
  }

  private check(): void {
    const [thread, before] = this.announced as unknown as [number, number];
    const used = thread > 0 ? threadMs(thread) : undefined;
    const isOver =
      used === undefined
        ? performance.now() - this.began > this.maxMs * clockFactor
        : used - before > this.maxMs;
    if (isOver) this.stop.abort();
  }
}
