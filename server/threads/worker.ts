import { handoff, look, readFile, step, tempos } from './tasks.ts';

/** Entry of the worker threads: one named export a task. */
export { handoff, look, readFile, step, tempos };
