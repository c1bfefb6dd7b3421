import { noteRows } from '../../edit/velocities.ts';
import { onTracks, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

/** Fewer notes than this say nothing about how somebody plays. */
const leastNotes = 8;
/** A spread below this over many notes is no playing either. */
const leastSpread = 4;
/** Nor is it where nearly all notes have one value; of fewer notes a few others are playing. */
const flatShare = 0.95;
const leastFlat = 20;
/** So far from its usual velocity a part is spread. */
const [spreadBelow, spreadAbove] = [20, 12];

export function oneVelocity({ parts }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { data2 } = t.track.events;
    const values = noteRows(t.track.events).map((i) => data2[i]!);
    if (values.length < leastNotes) return [];
    const lowest = values.reduce((a, b) => Math.min(a, b));
    const highest = values.reduce((a, b) => Math.max(a, b));
    const { value, times } = commonest(values);
    const narrow = highest - lowest < leastSpread && (highest === lowest || values.length >= 32);
    const flat = values.length >= leastFlat && times >= values.length * flatShare;
    if (!narrow && !flat) return [];
    const title =
      lowest === highest
        ? `Every note of ${t.label} has velocity ${lowest}`
        : flat
          ? `${times.toLocaleString('en')} of the ${values.length.toLocaleString('en')} notes of ${t.label} have velocity ${value}`
          : `${t.label} stays between velocity ${lowest} and ${highest}`;
    return [
      {
        title,
        why: 'A part played with one velocity sounds like a machine, and a sampled instrument uses one of its layers only.',
        tracks: [t.id],
        count: values.length,
        sure: 'certain',
        settle: [
          {
            title: 'Spread, louder on the beats',
            operation: 'velocity.widen',
            settings: {
              lowest: Math.max(1, value - spreadBelow),
              highest: Math.min(127, value + spreadAbove),
              equal: 'are spread',
            },
            scope: onTracks(t.id),
          },
          {
            title: 'Randomise',
            operation: 'velocity.randomise',
            settings: { spread: 12 },
            scope: onTracks(t.id),
          },
          {
            title: 'Accent by the meter',
            operation: 'velocity.accent',
            settings: { first: 12, beats: 4, between: -6 },
            scope: onTracks(t.id),
          },
        ],
      },
    ];
  });
}

function commonest(values: readonly number[]): { value: number; times: number } {
  const times = new Uint32Array(128);
  for (const value of values) times[value]!++;
  const most = times.reduce((a, b) => Math.max(a, b));
  return { value: times.indexOf(most), times: most };
}
