import { readFileSync, readlinkSync } from 'node:fs';

/**
 * What a thread says when it begins a task: its number in this process, 0 where the system has none, and how
 * much processor time it had used, in milliseconds.
 */
export type Announced = Float64Array<SharedArrayBuffer>;

export const newAnnouncement = (): Announced =>
  new Float64Array(new SharedArrayBuffer(2 * Float64Array.BYTES_PER_ELEMENT));

/** Processor time of a thread of this process in milliseconds (Linux, proc(5)); undefined where unknown. */
export function threadMs(thread: number): number | undefined {
  try {
    // The first number: nanoseconds spent on the processor.
    const [onProcessor] = readFileSync(`/proc/self/task/${thread}/schedstat`, 'latin1').split(' ');
    return Number(onProcessor) / 1e6;
  } catch {
    return undefined;
  }
}

let own: number | undefined;

/** Called by a thread as a task begins. */
export function announce(to: Announced): void {
  own ??= ownNumber();
  to[1] = threadMs(own) ?? 0;
  to[0] = own;
}

function ownNumber(): number {
  try {
    return Number(readlinkSync('/proc/thread-self').split('/').at(-1));
  } catch {
    return 0;
  }
}
