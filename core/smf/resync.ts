import { META, meta } from './events.ts';
import type { Effort } from './problem-log.ts';
import { readQuantity } from './variable-length.ts';

const mostCandidates = 512;

/**
 * Whether whole, well-formed events run from `at` to exactly `end`, the last an end of track.
 * Strong evidence: bytes out of step hardly ever pass.
 */
export function runsCleanly(bytes: Uint8Array, at: number, end: number, effort: Effort): boolean {
  if (!effort.spend(0)) return false;
  const { clean, next } = passCleanly(bytes, at, end, Infinity);
  effort.spend(next - at);
  return clean && next === end;
}

/** The first place from `at` on where no well-formed event stands; `end` where all are, or where the track ends. */
export function troubleFrom(bytes: Uint8Array, at: number, end: number, effort: Effort): number {
  if (!effort.spend(0)) return end;
  const { clean, next } = passCleanly(bytes, at, end, Infinity);
  effort.spend(next - at);
  return clean ? end : next;
}

/** Whether a track can begin at `at`: its first events are well-formed. */
export const beginsCleanly = (bytes: Uint8Array, at: number): boolean =>
  at < bytes.length && passCleanly(bytes, at, bytes.length, 8).clean;

/** Passes well-formed events up to an end of track, or as many as `most`. */
function passCleanly(
  bytes: Uint8Array,
  at: number,
  end: number,
  most: number,
): { clean: boolean; next: number } {
  let running = 0;
  for (let n = 0; at < end && n < most; n++) {
    const delta = readQuantity(bytes, at, end);
    if (delta.cut || delta.tooLong || delta.next >= end) return { clean: false, next: at };
    at = delta.next;
    let status = bytes[at]!;
    if (status >= 0x80) at++;
    else if (running === 0) return { clean: false, next: at };
    else status = running;
    if (status < 0xf0) {
      const data = (status & 0xe0) === 0xc0 ? 1 : 2;
      if (at + data > end || bytes[at]! > 0x7f || (data === 2 && bytes[at + 1]! > 0x7f))
        return { clean: false, next: at };
      at += data;
      running = status;
      continue;
    }
    if (status !== META && status !== 0xf0 && status !== 0xf7) return { clean: false, next: at };
    const type = status === META ? bytes[at++]! : -1;
    const length = readQuantity(bytes, at, end);
    if (type > 0x7f || length.cut || length.tooLong || length.next + length.value > end)
      return { clean: false, next: at };
    at = length.next + length.value;
    running = 0;
    if (type === meta.endOfTrack) return { clean: true, next: at };
  }
  return { clean: most !== Infinity, next: at };
}

/** The first place from `from` on where events run cleanly to `end`, or -1. Only a bounded stretch is tried. */
export function findResync(bytes: Uint8Array, from: number, end: number, effort: Effort): number {
  for (let at = from; at < Math.min(end, from + mostCandidates); at++)
    if (runsCleanly(bytes, at, end, effort)) return at;
  return -1;
}
