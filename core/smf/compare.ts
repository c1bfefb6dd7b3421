import { payloadOf, type Events } from './events.ts';
import { sameBytes } from './chunks.ts';

/** Whether two tracks hold the same events at the same ticks in the same order. */
export function sameEvents(a: Events, b: Events): boolean {
  if (a === b) return true;
  if (a.count !== b.count) return false;
  for (let i = 0; i < a.count; i++) {
    if (a.atTick[i] !== b.atTick[i] || a.status[i] !== b.status[i] || a.data1[i] !== b.data1[i] || a.data2[i] !== b.data2[i]) return false;
    if (a.payload[i] === 0 && b.payload[i] === 0) continue;
    if (!sameBytes(payloadOf(a, i), payloadOf(b, i))) return false;
  }
  return true;
}
