import { handoff, look, readFile, step } from './tasks.ts';

/** Entry of the worker threads: one named export a task. */
export { handoff, look, readFile, step };
