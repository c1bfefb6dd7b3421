import { on, type Noticed } from '../finding.ts';
import type { LookedSong } from '../view.ts';

export function programsInside({ parts, barAt }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const { events } = t.track;
    const firstNote = events.atTick[t.notes.on[0]!]!;
    const inside: number[] = [];
    for (let i = 0; i < events.count; i++) if (events.status[i]! >> 4 === 0xc && events.atTick[i]! > firstNote) inside.push(events.atTick[i]!);
    if (inside.length === 0) return [];
    return [
      {
        title: `${t.label} changes its program inside the piece${inside.length > 1 ? `, ${inside.length} times` : ''}`,
        why: 'Written for the instrument it was made on; on another one the part suddenly plays with a wrong sound.',
        tracks: [t.id], bars: { from: barAt(inside[0]!), to: barAt(inside.at(-1)!) }, count: inside.length, sure: 'likely',
        settle: [
          { title: 'Keep the first only', operation: 'events.remove', settings: { kinds: ['programs', 'banks'], keepFirst: true }, scope: on(t.id) },
          { title: 'Take all out', operation: 'events.remove', settings: { kinds: ['programs', 'banks'] }, scope: on(t.id) },
        ],
      },
    ];
  });
}
