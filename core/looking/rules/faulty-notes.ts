import { faultCount, noteFaults, type NoteFaults } from '../../edit/note-faults.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

/** What is wrong with how many notes, of one and of several. */
const says: readonly (readonly [keyof NoteFaults, string, string])[] = [
  ['hanging', 'never ends', 'never end'],
  ['overlapping', 'overlaps another of its key', 'overlap another of their key'],
  ['duplicate', 'is written twice', 'are written twice'],
  [
    'doubled',
    'is struck together with another of its key',
    'are struck together with another of their key',
  ],
  ['empty', 'has no length', 'have no length'],
  [
    'crossed',
    'begins before the end on the same tick of the one before',
    'begin before the end on the same tick of the one before',
  ],
];

/** "166 notes of Drums are written twice", "3 notes of Drums never end, 2 have no length". */
function sentence(faults: NoteFaults, label: string): string {
  const parts = says
    .filter(([kind]) => faults[kind].length > 0)
    .map(([kind, one, many]) => ({
      count: faults[kind].length,
      words: faults[kind].length === 1 ? one : many,
    }));
  return parts
    .map(
      ({ count, words }, n) =>
        `${count.toLocaleString('en')} ${n === 0 ? `note${count === 1 ? '' : 's'} of ${label} ` : ''}${words}`,
    )
    .join(', ');
}

export function faultyNotes({ parts, barAt }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const faults = noteFaults(t.track.events);
    const count = faultCount(faults);
    if (count === 0) return [];
    return [
      {
        title: sentence(faults, t.label),
        why:
          faults.hanging.length > 0
            ? 'A note that never ends sounds on until everything is stopped.'
            : 'Such notes are cut off, stick, or are lost, each program in its own way.',
        tracks: [t.id],
        bars: bars(t, faults, barAt),
        count,
        sure: 'certain',
        settle: [
          { title: 'Repair', operation: 'notes.repair', settings: {}, scope: onTracks(t.id) },
        ],
      },
    ];
  });
}

function bars(
  { notes, track: { events } }: LookedTrack,
  faults: NoteFaults,
  barAt: (tick: number) => number,
): { from: number; to: number } {
  const all = [
    ...faults.hanging,
    ...faults.empty,
    ...faults.duplicate,
    ...faults.doubled.map((d) => d.note),
    ...faults.overlapping.map((o) => o.note),
    ...faults.crossed.map((c) => c.note),
  ].map((n) => barAt(events.atTick[notes.on[n]!]!));
  return { from: all.reduce((a, b) => Math.min(a, b)), to: all.reduce((a, b) => Math.max(a, b)) };
}
