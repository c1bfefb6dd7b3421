import { eventAt } from './event-cost.ts';
import { closeBy, type DamagedTrack, type Guess } from './guess.ts';

const none = new Uint8Array(0);
/** Bytes of an event that are looked at behind a stretch which parts it. */
const longestParted = 64;

/** Of places that are about as likely so many are kept. */
const mostKept = 64;

/**
 * Where `many` bytes may have been put into a track: the places without which what is before and behind
 * them reads as the likeliest events. The stretch may part an event, anywhere but within a long payload.
 * None dearer than `most`.
 */
export function putIn(
  { bytes, body, end, costs, suffixes }: DamagedTrack,
  many: number,
  most: number,
): Guess[] {
  let guesses: Guess[] = [];
  let least = most;
  const consider = (at: number, cost: number): void => {
    if (cost > Math.min(most, least + closeBy)) return;
    guesses.push({ at, to: at + many, by: none, cost, row });
    least = Math.min(least, cost);
    if (guesses.length > mostKept * 2)
      guesses = guesses.sort((a, b) => a.cost - b.cost).slice(0, mostKept);
  };
  let [running, before, row] = [0, 0, 0];
  for (let at = body; at + many <= end;) {
    consider(at, before + suffixes.after(at + many, running));
    const event = eventAt(bytes, at, end, running, costs);
    const inside = Math.min(
      longestParted,
      (event?.next ?? at + longestParted) - at - 1,
      end - many - at,
    );
    for (let n = 1; n <= inside; n++) {
      const parted = joined(bytes, at, at + n, at + n + many, end);
      const whole = eventAt(parted, 0, parted.length, running, costs);
      if (!whole?.clean || whole.next <= n) continue;
      const next = at + many + whole.next;
      consider(
        at + n,
        before +
          whole.cost +
          (whole.ends ? (next === end ? 0 : Infinity) : suffixes.after(next, whole.running)),
      );
    }
    if (!event?.clean || event.ends) break;
    before += event.cost;
    row++;
    if (before > least) break;
    ({ next: at, running } = event);
  }
  return guesses;
}

/** The bytes from `at` to `to` and some of those from `behind` on, side by side. */
function joined(
  bytes: Uint8Array,
  at: number,
  to: number,
  behind: number,
  end: number,
): Uint8Array {
  const out = new Uint8Array(Math.min(end - behind, longestParted) + to - at);
  out.set(bytes.subarray(at, to));
  out.set(bytes.subarray(behind, Math.min(end, behind + longestParted)), to - at);
  return out;
}
