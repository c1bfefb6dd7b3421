import type { Events } from '../smf/events.ts';

/**
 * Controllers that shape one instrument's sound or its sends (MIDI 1.0: 70–79 sound controllers, 84, 91–95
 * effect depths), and parameter numbers.
 */
const isForeign = (controller: number): boolean =>
  (controller >= 70 && controller <= 79) ||
  controller === 84 ||
  (controller >= 91 && controller <= 95) ||
  controller === 98 ||
  controller === 99;

/** Effect depths: at 0, or at what they are already, they set nothing. */
const isSend = (controller: number): boolean => controller >= 91 && controller <= 95;

/** What General MIDI 2 begins with: 40 for reverb, 0 for the others (from memory). */
const usual = (send: number): number => (send === 91 ? 40 : 0);

/** NRPN are sent with data entry, which then has to go along. */
const withNrpn = [6, 38, 96, 97, 98, 99];

/** What of a track sets up the sound of one instrument and harms any other. */
export interface Foreign {
  /** The controllers that set something. */
  readonly used: readonly number[];
  /** All that go together with them. */
  readonly controllers: readonly number[];
  readonly values: number;
}

/** Settings of another instrument in a track; undefined where there are none. */
export function foreignTo({ status, data1, data2, count }: Events): Foreign | undefined {
  const [used, found] = [new Set<number>(), new Set<number>()];
  const sent = new Map<number, number>();
  let values = 0;
  let registered = false;
  for (let i = 0; i < count; i++) {
    if (status[i]! >> 4 !== 0xb) continue;
    if (data1[i] === 100 || data1[i] === 101) registered = true;
    if (!isForeign(data1[i]!)) continue;
    found.add(data1[i]!);
    if (
      isSend(data1[i]!) &&
      (data2[i] === 0 || data2[i] === (sent.get(status[i]! * 128 + data1[i]!) ?? usual(data1[i]!)))
    )
      continue;
    if (isSend(data1[i]!)) sent.set(status[i]! * 128 + data1[i]!, data2[i]!);
    used.add(data1[i]!);
    values++;
  }
  if (used.size === 0) return undefined;
  const nrpn = used.has(98) || used.has(99);
  const inOrder = (numbers: Iterable<number>): number[] =>
    [...new Set(numbers)].sort((x, y) => x - y);
  return {
    used: inOrder(used),
    // Data entry that may belong to a registered parameter (bend range, tuning) stays.
    controllers: inOrder([...found, ...(nrpn && !registered ? withNrpn : [])]),
    values,
  };
}
