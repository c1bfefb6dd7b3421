import type { Events } from '../../../smf/events.ts';

/**
 * A part on a channel, moved by the whole octaves that bring the most of its notes into a range, of those
 * the fewest; the events themselves where no octave brings more. All of it moves, so that it is the same
 * music and no two notes come together.
 */
export function intoRange(
  events: Events,
  channel: number,
  [lowest, highest]: readonly [number, number],
): { readonly events: Events; readonly octaves: number } {
  const keys = keysOn(events, channel);
  const inside = (octaves: number): number =>
    keys.filter((key) => key + octaves * 12 >= lowest && key + octaves * 12 <= highest).length;
  const stays = (octaves: number): boolean =>
    keys.every((key) => key + octaves * 12 >= 0 && key + octaves * 12 <= 127);
  const octaves = [1, -1, 2, -2, 3, -3, 4, -4, 5, -5]
    .filter(stays)
    .reduce((best, n) => (inside(n) > inside(best) ? n : best), 0);
  if (octaves === 0) return { events, octaves };
  const data1 = events.data1.slice();
  for (let i = 0; i < events.count; i++) {
    const kind = events.status[i]! >> 4;
    // Notes, their ends, and the pressure of single ones.
    if (kind >= 8 && kind <= 0xa && (events.status[i]! & 15) === channel)
      data1[i] = Math.min(127, Math.max(0, data1[i]! + octaves * 12));
  }
  return { events: { ...events, data1 }, octaves };
}

function keysOn({ status, data1, data2, count }: Events, channel: number): number[] {
  const keys: number[] = [];
  for (let i = 0; i < count; i++)
    if (status[i] === (0x90 | channel) && data2[i]! > 0) keys.push(data1[i]!);
  return keys;
}
