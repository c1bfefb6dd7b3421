import { handoff, look, mapFile, readFile, step, tempos } from './tasks.ts';

/** Entry of the worker threads: one named export a task. */
export { handoff, look, mapFile, readFile, step, tempos };
