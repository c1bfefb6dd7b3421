import { useState } from 'react';
import type { TrackView } from '#contracts/songs.ts';
import type { NoteTable } from '#core/song/note-table.ts';
import { useStepping, type useStep } from '../../api/queries.ts';
import type { Ghost } from '../../drawing/notes.ts';
import { spansOf } from '../../state/spans.ts';
import { waitingNudge, type DrawnNote, type Nudge } from './hand-queue.ts';
import { useHandQueue } from './use-hand-queue.ts';

interface Board {
  readonly song: string;
  readonly step: ReturnType<typeof useStep>;
  readonly ready: boolean;
  readonly table: NoteTable;
  readonly tracks: readonly TrackView[];
  readonly selected: ReadonlySet<number>;
  /** Selects notes; with `ghost` those that will be where it puts them. */
  select(notes: Iterable<number>, ghost?: Ghost): void;
  go(by: 1 | -1): void;
  all(): readonly number[];
}

/**
 * What hands do on the plane as steps of the song, one after the other; `waiting` is where the selected
 * notes go by what is not there yet.
 */
export function useHandSteps({
  song,
  step,
  ready,
  table,
  tracks,
  selected,
  select,
  go,
  all,
}: Board) {
  // What was taken is shown where it goes until the notes are there.
  const [sent, send] = useState<{ readonly table: NoteTable; readonly nudge: Nudge }>();
  const { queue, add } = useHandQueue(ready, useStepping(song), (act) => {
    if (act.kind === 'draw')
      return step.mutate({ operation: 'notes.draw', settings: { notes: byTrack(act.notes) } });
    if (act.kind === 'all') return select(all());
    if (act.kind === 'go') return go(act.by);
    // Notes of a table that is gone are others now.
    if (act.kind === 'select') return act.table === table ? select(act.notes) : undefined;
    if (act.kind === 'none' || selected.size === 0) return select([]);
    const settings = { rows: spansOf(selected, table, tracks) };
    if (act.kind !== 'nudge') {
      select([]);
      return step.mutate({ operation: 'events.delete', settings });
    }
    select(selected, act.nudge);
    send({ table, nudge: act.nudge });
    step.mutate(
      { operation: 'notes.shift', settings: { ...settings, ...act.nudge } },
      { onSuccess: ({ changed }) => changed || send(undefined), onError: () => send(undefined) },
    );
  });
  return {
    queue,
    add,
    waiting: waitingNudge(queue, sent?.table === table ? sent.nudge : undefined),
  };
}

function byTrack(notes: readonly DrawnNote[]): Record<string, Omit<DrawnNote, 'track'>[]> {
  const found: Record<string, Omit<DrawnNote, 'track'>[]> = {};
  for (const { track, ...note } of notes) (found[track] ??= []).push(note);
  return found;
}
