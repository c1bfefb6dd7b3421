import { foreignTo } from '../../edit/foreign-controllers.ts';
import { controllerName } from '../../instruments/controllers.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function foreignControllers({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const foreign = foreignTo(t.track.events);
    if (!foreign) return [];
    const { used, controllers, values } = foreign;
    return [
      {
        title: `${t.label} carries settings of another instrument: ${used
          .map((c) => controllerName(c).toLowerCase())
          .join(', ')}`,
        why: 'Filters, envelopes and sends set for the sound it was made on bend any other sound out of shape.',
        tracks: [t.id],
        count: values,
        sure: 'likely',
        settle: [
          {
            title: 'Take them out',
            operation: 'events.remove',
            settings: { controllers },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
