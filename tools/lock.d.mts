/** Types of lock.mjs, for the tests. */
export function takeLock(file: string, what: string): Promise<() => void>;
