import { payloadOf, type Events } from './events.ts';
import { sameBytes } from './chunks.ts';

/** Whether event `i` of `a` is event `j` of `b`, tick and all. */
export function sameEvent(a: Events, i: number, b: Events, j: number): boolean {
  if (
    a.atTick[i] !== b.atTick[j] ||
    a.status[i] !== b.status[j] ||
    a.data1[i] !== b.data1[j] ||
    a.data2[i] !== b.data2[j]
  )
    return false;
  return (a.payload[i] === 0 && b.payload[j] === 0) || sameBytes(payloadOf(a, i), payloadOf(b, j));
}

/** Whether two tracks hold the same events at the same ticks in the same order. */
export function sameEvents(a: Events, b: Events): boolean {
  if (a === b) return true;
  if (a.count !== b.count) return false;
  for (let i = 0; i < a.count; i++) if (!sameEvent(a, i, b, i)) return false;
  return true;
}
