import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { refused, type Result } from '#core/problems/problems.ts';
import type * as tasks from './tasks.ts';
import { TimeLimit } from './time-limit.ts';
import { WorkQueue, type Urgency } from './work-queue.ts';
import type { TaskGiven } from './worker.ts';

type Tasks = typeof tasks;
type Name = keyof Tasks;

/** What was asked for and is refused where more wait. */
const maxWaiting = 200;

/** What the page asks for by itself: it is the last in the queue. */
const background: ReadonlySet<Name> = new Set(['look', 'harmony', 'guesses', 'activity']);
/** What may take minutes, whatever it is given. */
const heavy: ReadonlySet<Name> = new Set(['handoffFiles', 'openSatchel']);
/** Work on more bytes than that is heavy. */
const maxLightBytes = 4 * 1_048_576;

/** What is asked of a task beside its input. */
export interface WorkAsked {
  /** Stops the task with its thread, or takes it out of the queue. */
  readonly signal?: AbortSignal | undefined;
  /** Bytes it works on, where those that are given are not all. */
  readonly bytes?: number;
}

/**
 * The worker threads. A task that uses too much time or memory ends with its thread; the server goes on. Light
 * work waits for no heavy work: see `WorkQueue`.
 */
export class WorkPool {
  private readonly pool: Piscina;
  private readonly queue: WorkQueue;
  private readonly maxMs: number;

  /** @param maxMs processor time that a file may take to be read; other work may take four times as much */
  constructor(workerFile: string, maxMs: number) {
    this.maxMs = maxMs;
    const threads = Math.max(2, availableParallelism()) + 1;
    this.queue = new WorkQueue(threads, maxWaiting);
    this.pool = new Piscina({
      filename: workerFile,
      minThreads: 1,
      maxThreads: threads,
      idleTimeout: 60_000,
      // A thread that waits by blocking never ends its job: what it looked at stays in memory.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: 1024, maxYoungGenerationSizeMb: 96 },
    });
  }

  async run<N extends Name>(
    name: N,
    input: Parameters<Tasks[N]>[0],
    { signal: given, bytes = 0 }: WorkAsked = {},
  ): Promise<Awaited<ReturnType<Tasks[N]>> | Result<never>> {
    const leave = await this.queue.enter(urgencyOf(name, Math.max(bytes, bytesIn(input))), given);
    if (!leave) return refused({ code: 'busy', where: {} });
    try {
      return await this.work(name, input, given);
    } finally {
      leave();
    }
  }

  private async work<N extends Name>(
    name: N,
    input: Parameters<Tasks[N]>[0],
    given?: AbortSignal,
  ): Promise<Awaited<ReturnType<Tasks[N]>> | Result<never>> {
    // Only a file is somebody else's; steps and handoffs work on what has been read within its limit, and a
    // whole file may be written and read back.
    const reads = name === 'readFile' || name === 'contents';
    const maxMs = reads ? this.maxMs : this.maxMs * 4;
    const stopped = reads ? 'reading-stopped' : 'work-stopped';
    const limit = new TimeLimit(maxMs);
    const signal = given ? AbortSignal.any([limit.signal, given]) : limit.signal;
    try {
      const task = { name, input, announced: limit.announced } satisfies TaskGiven;
      return (await this.pool.run(task, { signal })) as Awaited<ReturnType<Tasks[N]>>;
    } catch (error) {
      if (limit.signal.aborted)
        return refused({
          code: stopped,
          where: {},
          why: `more than ${maxMs / 1000} seconds of processor time`,
        });
      if (isCode(error, 'ERR_WORKER_OUT_OF_MEMORY') || isTooMuch(error))
        return refused({ code: stopped, where: {}, why: 'more memory than a task may use' });
      throw error;
    } finally {
      limit.end();
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}

const urgencyOf = (name: Name, bytes: number): Urgency =>
  background.has(name)
    ? 'background'
    : heavy.has(name) || bytes > maxLightBytes
      ? 'heavy'
      : 'light';

/** Bytes of the file or the blobs that a task is given. */
function bytesIn(input: unknown): number {
  if (input instanceof Uint8Array) return input.length;
  const { bytes, blobs } = input as { bytes?: unknown; blobs?: unknown };
  const file = bytes instanceof Uint8Array ? bytes.length : 0;
  if (!(blobs instanceof Map)) return file;
  let sum = file;
  for (const blob of blobs.values()) if (blob instanceof Uint8Array) sum += blob.length;
  return sum;
}

const isCode = (error: unknown, code: string): boolean =>
  error instanceof Error && 'code' in error && error.code === code;

/** Buffers and lists that cannot be as long as they would have to be. Any other RangeError is a defect. */
const isTooMuch = (error: unknown): boolean =>
  error instanceof RangeError &&
  /allocation|Invalid (typed )?array (buffer )?length|Invalid string length|Map maximum size|Set maximum size/i.test(
    error.message,
  );
