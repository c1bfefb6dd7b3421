import { idleRows } from '../../edit/idle.ts';
import { lanesOf } from '../../song/lanes.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** A few are how programs make sure; this many are ballast. */
const least = 12;
/** And this part of the lanes: a swell that goes on into a rest is ordinary playing. */
const leastShare = 0.15;

/** Values overridden on their own tick, changed while nothing sounds, or set after the last note. */
export function unheardValues({ parts, song }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const count = lanesOf(events).reduce(
      (sum, lane) =>
        sum + idleRows(song, events, lane, { overridden: true, silent: true, after: true }).length,
      0,
    );
    if (
      count <
      Math.max(least, leastShare * lanesOf(events).reduce((sum, lane) => sum + lane.rows.length, 0))
    )
      return [];
    return [
      {
        title: `${count.toLocaleString('en')} controller values of ${t.label} come while nobody can hear them`,
        why: 'They are overridden at once, change while nothing sounds, or come after the last note: they only load the keyboard and hide what matters.',
        tracks: [t.id],
        count,
        sure: 'likely',
        settle: [
          {
            title: 'Take them out',
            operation: 'controllers.tidy',
            settings: {},
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
