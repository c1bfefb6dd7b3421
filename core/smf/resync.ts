import { META, meta } from './events.ts';
import { readQuantity } from './variable-length.ts';

const mostCandidates = 512;

/**
 * Whether whole, well-formed events run from `at` to exactly `end`, the last an end of track.
 * Strong evidence: bytes out of step hardly ever pass.
 */
export function runsCleanly(bytes: Uint8Array, at: number, end: number): boolean {
  let running = 0;
  while (at < end) {
    const delta = readQuantity(bytes, at, end);
    if (delta.cut || delta.tooLong || delta.next >= end) return false;
    at = delta.next;
    let status = bytes[at]!;
    if (status >= 0x80) at++;
    else if (running === 0) return false;
    else status = running;
    if (status < 0xf0) {
      const data = (status & 0xe0) === 0xc0 ? 1 : 2;
      if (at + data > end || bytes[at]! > 0x7f || (data === 2 && bytes[at + 1]! > 0x7f)) return false;
      at += data;
      running = status;
      continue;
    }
    if (status !== META && status !== 0xf0 && status !== 0xf7) return false;
    const type = status === META ? bytes[at++]! : -1;
    const length = readQuantity(bytes, at, end);
    if (type > 0x7f || length.cut || length.tooLong || length.next + length.value > end) return false;
    at = length.next + length.value;
    running = 0;
    if (type === meta.endOfTrack) return at === end;
  }
  return false;
}

/** The first place from `from` on where events run cleanly to `end`, or -1. Only a bounded stretch is tried. */
export function findResync(bytes: Uint8Array, from: number, end: number): number {
  for (let at = from; at < Math.min(end, from + mostCandidates); at++) if (runsCleanly(bytes, at, end)) return at;
  return -1;
}
