import type { Events } from '../smf/events.ts';

/** Whether a channel chooses registered parameter 0 (pitch bend sensitivity) and enters a value for it. */
export function statesBendRange({ status, data1, data2, count }: Events, channel: number): boolean {
  let coarse = 127;
  let fine = 127;
  for (let i = 0; i < count; i++) {
    if (status[i] !== (0xb0 | channel)) continue;
    if (data1[i] === 101) coarse = data2[i]!;
    else if (data1[i] === 100) fine = data2[i]!;
    else if (data1[i] === 98 || data1[i] === 99) coarse = fine = 127;
    else if (data1[i] === 6 && coarse === 0 && fine === 0) return true;
  }
  return false;
}
