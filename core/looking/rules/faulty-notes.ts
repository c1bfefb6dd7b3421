import { faultCount, noteFaults, type NoteFaults } from '../../operations/notes-repair/faults.ts';
import { on, type Noticed } from '../finding.ts';
import type { LookedSong, LookedTrack } from '../view.ts';

function listed({ hanging, overlapping, duplicate, doubled, empty }: NoteFaults): string {
  const parts = [hanging.length > 0 && `${hanging.length} that never end`, overlapping.length > 0 && `${overlapping.length} that overlap themselves`, duplicate.length > 0 && `${duplicate.length} written twice`, doubled.length > 0 && `${doubled.length} struck together with another of the key`, empty.length > 0 && `${empty.length} without length`];
  return parts.filter(Boolean).join(', ');
}

export function faultyNotes({ parts, barAt }: LookedSong): Noticed[] {
  return parts.flatMap((t): Noticed[] => {
    const faults = noteFaults(t.track.events);
    const count = faultCount(faults);
    if (count === 0) return [];
    return [
      {
        title: `${t.label} has notes ${listed(faults)}`,
        why: faults.hanging.length > 0 ? 'A note that never ends sounds on until everything is stopped.' : 'Such notes are cut off, stick, or are lost, each program in its own way.',
        tracks: [t.id], bars: bars(t, faults, barAt), count, sure: 'certain',
        settle: [{ title: 'Repair', operation: 'notes.repair', settings: {}, scope: on(t.id) }],
      },
    ];
  });
}

function bars({ notes, track: { events } }: LookedTrack, faults: NoteFaults, barAt: (tick: number) => number): { from: number; to: number } {
  const all = [...faults.hanging, ...faults.empty, ...faults.duplicate, ...faults.doubled.map((d) => d.note), ...faults.overlapping.map((o) => o.note)].map((n) => barAt(events.atTick[notes.on[n]!]!));
  return { from: all.reduce((a, b) => Math.min(a, b)), to: all.reduce((a, b) => Math.max(a, b)) };
}
