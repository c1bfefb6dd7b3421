import { lanesOf } from '../../song/lanes.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** A repeat or two is how some programs make sure; this many are ballast. */
const leastRepeats = 20;

export function idleValues({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const repeats = lanesOf(t.track.events).reduce((sum, { values }) => sum + values.filter((v, i) => i > 0 && v === values[i - 1]).length, 0);
    if (repeats < leastRepeats) return [];
    return [
      {
        title: `${repeats.toLocaleString('en')} controller values of ${t.label} say nothing new`,
        why: 'They repeat the value before. Nothing changes when they go, and the lanes can be read.',
        tracks: [t.id], count: repeats, sure: 'certain',
        settle: [{ title: 'Leave out repeats', operation: 'controllers.thin', settings: { error: 0 }, scope: on(t.id) }],
      },
    ];
  });
}
