import { statesBendRange } from '../../edit/bend-range.ts';
import { lanesOf } from '../../song/lanes.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Bends whose range is nowhere said. */
export function bendRange({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const unsaid = lanesOf(events).filter(
      (l) =>
        l.what === 'bend' &&
        l.values.some((v) => v !== 8192) &&
        !statesBendRange(events, l.channel),
    );
    if (unsaid.length === 0) return [];
    return [
      {
        title: `${t.label} bends, and does not say how far`,
        why: 'A full bend is two semitones on one instrument and an octave on another: without its range the part plays out of tune there.',
        tracks: [t.id],
        count: unsaid.reduce((n, l) => n + l.rows.length, 0),
        sure: 'possible',
        settle: [
          {
            title: 'State two semitones',
            operation: 'controllers.bend-range',
            settings: { semitones: 2 },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}
