import { controllerName } from '../../instruments/controllers.ts';
import { tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import { lanesOf, type Lane } from '../../song/lanes.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Values a second over a whole lane that no hand makes and no ear needs. */
const mostASecond = 25;
const leastValues = 200;
/** So many within one second stall a cable, however still the rest is: with three bytes each a seventh of what it carries (MIDI 1.0: 3,125 bytes a second). */
const mostInASecond = 150;

const laneName = (what: Lane['what']): string => (what === 'bend' ? 'pitch bend' : what === 'pressure' ? 'pressure' : controllerName(what).toLowerCase());

export function floods({ parts, song, timing }: LookedSong): Noticed[] {
  const map = tempoMap(timing.tempos, song.division);
  return parts.flatMap((t): Noticed[] => {
    const { atTick } = t.track.events;
    const flooded = lanesOf(t.track.events).filter(({ rows }) => {
      const seconds = ticksToSeconds(map, atTick[rows.at(-1)!]!) - ticksToSeconds(map, atTick[rows[0]!]!);
      const often = rows.length >= leastValues && rows.length / Math.max(0.5, seconds) > mostASecond;
      return often || burst(rows.map((row) => ticksToSeconds(map, atTick[row]!)));
    });
    if (flooded.length === 0) return [];
    const count = flooded.reduce((sum, { rows }) => sum + rows.length, 0);
    return [
      {
        title: `${t.label} is flooded with ${flooded.map((l) => laneName(l.what)).join(' and ')}: ${count.toLocaleString('en')} values`,
        why: 'Keyboards choke on it, and nobody can edit a lane of thousands of points. Within one step it sounds the same.',
        tracks: [t.id], count, sure: 'likely',
        settle: [{ title: 'Thin, at most 1 off', operation: 'controllers.thin', settings: { error: 1, lanes: [...new Set(flooded.map((l) => l.what))] }, scope: on(t.id) }],
      },
    ];
  });
}

/** Whether so many come within any one second. */
function burst(times: readonly number[]): boolean {
  for (let i = mostInASecond - 1; i < times.length; i++) if (times[i]! - times[i - mostInASecond + 1]! <= 1) return true;
  return false;
}
