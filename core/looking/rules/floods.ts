import { controllerName } from '../../instruments/controllers.ts';
import { thinned } from '../../edit/thin.ts';
import { lanesOf, type Lane } from '../../song/lanes.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Values a second over a whole lane that no hand makes and no ear needs. */
const mostASecond = 25;
const leastValues = 200;
/**
 * So many within one second stall a cable, however still the rest is: with three bytes each a seventh of
 * what it carries (MIDI 1.0: 3,125 bytes a second).
 */
const mostInASecond = 150;
/** Errors that are tried, the least that ends the flood first. */
const errors = [1, 2, 3, 4, 6, 8] as const;

const laneName = (what: Lane['what']): string =>
  what === 'bend'
    ? 'pitch bend'
    : what === 'pressure'
      ? 'pressure'
      : controllerName(what).toLowerCase();

export function floods({ parts, seconds }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const timesOf = ({ rows }: Lane): number[] => rows.map((row) => seconds(events.atTick[row]!));
    const flooded = lanesOf(events).filter(
      (lane) => lane.rows.length >= mostInASecond && isFlood(timesOf(lane)),
    );
    if (flooded.length === 0) return [];
    const count = flooded.reduce((sum, { rows }) => sum + rows.length, 0);
    const error =
      errors.find((e) => flooded.every((lane) => ends(lane, timesOf(lane), e))) ?? errors.at(-1)!;
    return [
      {
        title: `${t.label} is flooded with ${flooded.map((l) => laneName(l.what)).join(' and ')}: ${count.toLocaleString('en')} values`,
        why: 'Keyboards choke on it, and nobody can edit a lane of thousands of points. Within a few steps it sounds the same.',
        tracks: [t.id],
        count,
        sure: 'likely',
        settle: [
          {
            title: `Thin, at most ${error} off`,
            operation: 'controllers.thin',
            settings: { error, lanes: [...new Set(flooded.map((l) => l.what))] },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}

/** Values at these seconds, in order. */
function isFlood(times: readonly number[]): boolean {
  const lasts = (times.at(-1) ?? 0) - (times[0] ?? 0);
  if (times.length >= leastValues && times.length / Math.max(0.5, lasts) > mostASecond) return true;
  for (let i = mostInASecond - 1; i < times.length; i++)
    if (times[i]! - times[i - mostInASecond + 1]! <= 1) return true;
  return false;
}

/** Whether the lane, kept within an error, is a flood no more. */
function ends({ what, values }: Lane, times: readonly number[], error: number): boolean {
  const { keep } = thinned(values, what === 'bend' ? error * 128 : error);
  return !isFlood(times.filter((_, n) => keep[n]));
}
