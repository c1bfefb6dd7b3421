import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/**
 * Bank selects that no program change follows: a bank takes effect with the next program only (MIDI 1.0,
 * bank select).
 */
export function bankAlone({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const channels = channelsWithout(t);
    if (channels.length === 0) return [];
    return [
      {
        title: `${t.label} selects a bank and never a program`,
        why: 'A bank has no effect until a program follows. Some instruments change sound all the same, others do not.',
        tracks: [t.id],
        count: channels.length,
        sure: 'likely',
        settle: [
          {
            title: 'Take the bank out',
            operation: 'events.remove',
            settings: { kinds: ['banks'], channels },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}

/** The channels of the track that have bank selects but no program at all, counted from 1. */
function channelsWithout({ track: { events } }: LookedTrack): number[] {
  let banks = 0;
  let programs = 0;
  for (let i = 0; i < events.count; i++) {
    const status = events.status[i]!;
    if (status >> 4 === 0xb && (events.data1[i] === 0 || events.data1[i] === 32))
      banks |= 1 << (status & 15);
    if (status >> 4 === 0xc) programs |= 1 << (status & 15);
  }
  const alone = banks & ~programs;
  return Array.from({ length: 16 }, (_, c) => c + 1).filter((c) => (alone >> (c - 1)) & 1);
}
