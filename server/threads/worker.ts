/** Entry of the worker threads: one named export a task. */
export * from './tasks.ts';
