import { controllerName } from '../../instruments/controllers.ts';
import { leftHanging as hangs } from '../../edit/left-hanging.ts';
import { lanesOf } from '../../song/lanes.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function leftHanging({ tracks, barAt }: LookedSong): Noticed[] {
  return tracks.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const left = lanesOf(events).filter((lane) => hangs(lane) !== undefined);
    if (left.length === 0) return [];
    const names = left.map((l) =>
      l.what === 'bend'
        ? 'the pitch bend off centre'
        : `the ${controllerName(l.what as number).toLowerCase()} pedal down`,
    );
    const from = barAt(
      left.reduce((tick, l) => Math.min(tick, events.atTick[l.rows.at(-1)!]!), Infinity),
    );
    return [
      {
        title: `${t.label} ends with ${names.join(' and ')}`,
        why: 'What plays on this channel next, or the song played again, begins out of tune or with notes that ring on.',
        tracks: [t.id],
        bars: { from, to: from },
        count: left.length,
        sure: 'certain',
        settle: [
          {
            title: 'Settle at the end',
            operation: 'controllers.settle',
            settings: {},
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
