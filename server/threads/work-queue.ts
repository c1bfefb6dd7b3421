/**
 * How urgent work is. Light work answers somebody at once. Heavy work is waited for, and takes its time.
 * Background work was begun by the page itself, such as a look-over.
 */
export const urgencies = ['light', 'heavy', 'background'] as const;
export type Urgency = (typeof urgencies)[number];

interface Waiting {
  readonly urgency: Urgency;
  readonly begin: (end: () => void) => void;
}

/**
 * Who may work next. One place is kept for light work; of what waits the light comes first, the background
 * last, and of the same urgency the first that came.
 */
export class WorkQueue {
  private readonly places: number;
  private readonly maxWaiting: number;
  private readonly waiting: Record<Urgency, Waiting[]> = { light: [], heavy: [], background: [] };
  private readonly working = { all: 0, slow: 0 };

  /** @param places how many may work at once, 2 at least @param maxWaiting how many may wait */
  constructor(places: number, maxWaiting: number) {
    this.places = places;
    this.maxWaiting = maxWaiting;
  }

  get size(): number {
    return urgencies.reduce((sum, urgency) => sum + this.waiting[urgency].length, 0);
  }

  /**
   * Waits for a place. The promise gives the function that gives it back, or undefined where too many wait.
   *
   * @throws the signal's reason, where it is aborted first
   */
  async enter(urgency: Urgency, signal?: AbortSignal): Promise<(() => void) | undefined> {
    signal?.throwIfAborted();
    if (this.size >= this.maxWaiting) return undefined;
    return new Promise((resolve, reject) => {
      const leave = (): void => {
        this.waiting[urgency] = this.waiting[urgency].filter((w) => w !== entry);
        reject(signal!.reason as Error);
      };
      const entry: Waiting = {
        urgency,
        begin: (end) => {
          signal?.removeEventListener('abort', leave);
          resolve(end);
        },
      };
      signal?.addEventListener('abort', leave, { once: true });
      this.waiting[urgency].push(entry);
      this.admit();
    });
  }

  private admit(): void {
    for (let next = this.next(); next; next = this.next()) {
      this.waiting[next.urgency].shift();
      const slow = Number(next.urgency !== 'light');
      this.working.all++;
      this.working.slow += slow;
      let isOver = false;
      next.begin(() => {
        if (isOver) return;
        isOver = true;
        this.working.all--;
        this.working.slow -= slow;
        this.admit();
      });
    }
  }

  private next(): Waiting | undefined {
    if (this.working.all >= this.places) return undefined;
    const { light, heavy, background } = this.waiting;
    const slow = this.working.slow < this.places - 1 ? (heavy[0] ?? background[0]) : undefined;
    return light[0] ?? slow;
  }
}
