import { laneDefault, lanesOf } from '../../song/lanes.ts';
import { laneWords } from '../../edit/lane-settings.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** A statement at the start is good manners; only one that goes on saying the usual value is ballast. */
const leastValues = 3;

/** Lanes that say nothing but the value an instrument starts from. */
export function constantLanes({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const lanes = lanesOf(t.track.events).filter(
      ({ what, values }) =>
        values.length >= leastValues &&
        laneDefault(what) !== undefined &&
        values.every((v) => v === laneDefault(what)),
    );
    if (lanes.length === 0) return [];
    const count = lanes.reduce((n, l) => n + l.rows.length, 0);
    return [
      {
        title: `${lanes.map((l) => laneWords(l.what)).join(' and ')} of ${t.label} never leave${lanes.length === 1 ? 's' : ''} the usual value`,
        why: 'An instrument is there already when it is switched on: the lane says nothing, over and over.',
        tracks: [t.id],
        count,
        sure: 'certain',
        settle: [
          {
            title: 'Leave out repeats',
            operation: 'controllers.thin',
            settings: { error: 0, lanes: [...new Set(lanes.map((l) => l.what))] },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
