import * as tasks from './tasks.ts';
import { announce, type Announced } from './thread-time.ts';

/** A task for a thread: its name, what it is given, and where the thread says that it has begun. */
export interface TaskGiven {
  readonly name: keyof typeof tasks;
  readonly input: unknown;
  readonly announced: Announced;
}

/** Entry of the worker threads. */
export default function work({ name, input, announced }: TaskGiven): unknown {
  announce(announced);
  return tasks[name](input as never);
}
