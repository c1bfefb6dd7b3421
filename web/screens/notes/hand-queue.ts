import type { NoteTable } from '#core/song/note-table.ts';
import type { Ghost } from '../../drawing/notes.ts';

/** How notes are moved, and how much louder they become. */
export interface Nudge extends Ghost {
  readonly louder: number;
}

/** A note that is drawn, into a track. */
export interface DrawnNote {
  readonly track: string;
  readonly atTick: number;
  readonly length: number;
  readonly key: number;
  readonly velocity: number;
}

/**
 * Something a hand does on the plane. `rests`: more of it may follow, as with keys. `select` names notes of
 * the table it was done on.
 */
export type Act =
  | { readonly kind: 'nudge'; readonly nudge: Nudge; readonly rests: boolean }
  | { readonly kind: 'draw'; readonly notes: readonly DrawnNote[] }
  | { readonly kind: 'select'; readonly notes: readonly number[]; readonly table: NoteTable }
  | { readonly kind: 'go'; readonly by: 1 | -1 }
  | { readonly kind: 'all' }
  | { readonly kind: 'none' }
  | { readonly kind: 'remove' };

const plus = (a: Nudge, b: Nudge): Nudge => ({
  ticks: a.ticks + b.ticks,
  keys: a.keys + b.keys,
  lengthen: a.lengthen + b.lengthen,
  louder: a.louder + b.louder,
});

/** The queue with another act behind: moves of the same notes become one, and so do notes that are drawn. */
export function queued(queue: readonly Act[], act: Act): Act[] {
  const last = queue.at(-1);
  if (last?.kind === 'nudge' && act.kind === 'nudge')
    return [
      ...queue.slice(0, -1),
      { kind: 'nudge', nudge: plus(last.nudge, act.nudge), rests: act.rests },
    ];
  if (last?.kind === 'draw' && act.kind === 'draw')
    return [...queue.slice(0, -1), { kind: 'draw', notes: [...last.notes, ...act.notes] }];
  return [...queue, act];
}

/** Where the notes that are selected would be by what waits, up to where others are selected. */
export function waitingNudge(queue: readonly Act[], sent: Nudge | undefined): Nudge | undefined {
  const [first] = queue;
  const waits = first?.kind === 'nudge' ? first.nudge : undefined;
  return sent && waits ? plus(sent, waits) : (sent ?? waits);
}
