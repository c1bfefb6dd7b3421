import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { refused, type Result } from '#core/problems/problems.ts';
import type * as tasks from './tasks.ts';

type Tasks = typeof tasks;
type Name = keyof Tasks;

/** The worker threads. A task that takes too long or too much memory ends with its thread; the server goes on. */
export class WorkPool {
  private readonly pool: Piscina;
  private readonly timeoutMs: number;

  constructor(workerFile: string, timeoutMs: number) {
    this.timeoutMs = timeoutMs;
    this.pool = new Piscina({
      filename: workerFile,
      minThreads: 1,
      maxThreads: Math.max(2, availableParallelism()),
      maxQueue: 200,
      idleTimeout: 60_000,
      // A thread that waits by blocking never ends its job: what it looked at stays in memory.
      atomics: 'disabled',
      resourceLimits: { maxOldGenerationSizeMb: 1024, maxYoungGenerationSizeMb: 96 },
    });
  }

  /** @param given stops the task with its thread */
  async run<N extends Name>(
    name: N,
    input: Parameters<Tasks[N]>[0],
    given?: AbortSignal,
  ): Promise<Awaited<ReturnType<Tasks[N]>> | Result<never>> {
    // Only a file is somebody else's; steps and handoffs work on what has been read within its limit, and a
    // whole file may be written and read back.
    const reads = name === 'readFile' || name === 'contents';
    const timeoutMs = reads ? this.timeoutMs : this.timeoutMs * 4;
    const stopped = reads ? 'reading-stopped' : 'work-stopped';
    const stop = AbortSignal.timeout(timeoutMs);
    const signal = given ? AbortSignal.any([stop, given]) : stop;
    try {
      return (await this.pool.run(input, { name, signal })) as Awaited<ReturnType<Tasks[N]>>;
    } catch (error) {
      if (stop.aborted)
        return refused({
          code: stopped,
          where: {},
          why: `more than ${timeoutMs / 1000} seconds of work`,
        });
      if (isCode(error, 'ERR_WORKER_OUT_OF_MEMORY') || isTooMuch(error))
        return refused({ code: stopped, where: {}, why: 'more memory than a task may use' });
      if (
        error instanceof Error &&
        /queue/i.test(error.name + error.message) &&
        this.pool.queueSize >= 200
      )
        return refused({ code: 'busy', where: {} });
      throw error;
    }
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}

const isCode = (error: unknown, code: string): boolean =>
  error instanceof Error && 'code' in error && error.code === code;

/** Buffers and lists that cannot be as long as they would have to be. Any other RangeError is a defect. */
const isTooMuch = (error: unknown): boolean =>
  error instanceof RangeError &&
  /allocation|Invalid (typed )?array (buffer )?length|Invalid string length|Map maximum size|Set maximum size/i.test(
    error.message,
  );
