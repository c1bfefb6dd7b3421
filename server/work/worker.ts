import { handoff, readFile, step } from './tasks.ts';

/** Entry of the worker threads: one named export a task. */
export { handoff, readFile, step };
