import { lanesOf } from '../../song/lanes.ts';
import { stretches } from '../../edit/heard.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** A repeat or two is how some programs make sure; this many are ballast. */
const leastRepeats = 20;

/** Values that say what the one before in their stretch does. */
const repeatsIn = (values: readonly number[], parts: readonly (readonly number[])[]): number =>
  parts.reduce(
    (sum, part) => sum + part.filter((n, i) => i > 0 && values[n] === values[part[i - 1]!]).length,
    0,
  );

export function idleValues({ parts, song }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const repeats = lanesOf(t.track.events).reduce(
      (sum, lane) => sum + repeatsIn(lane.values, stretches(song, t.track.events, lane)),
      0,
    );
    if (repeats < leastRepeats) return [];
    return [
      {
        title: `${repeats.toLocaleString('en')} controller values of ${t.label} say nothing new`,
        why: 'They repeat the value before. Nothing changes when they go, and the lanes can be read.',
        tracks: [t.id],
        count: repeats,
        sure: 'certain',
        settle: [
          {
            title: 'Leave out repeats',
            operation: 'controllers.thin',
            settings: { error: 0 },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
