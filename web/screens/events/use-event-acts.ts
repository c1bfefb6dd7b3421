import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { payloadOf, type Events } from '#core/smf/events.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { useStep } from '../../api/queries.ts';
import { spansOf } from '../../state/spans.ts';
import type { Typed } from './event-form.tsx';
import { partsFrom, type EventParts } from './fields.ts';

/** The events of some tracks of a song, and which of them are listed. */
export interface Listed {
  readonly song: SongView;
  readonly tracks: readonly TrackView[];
  readonly events: readonly Events[];
  readonly index: EventIndex;
}

/**
 * What is done to listed events, as steps of the song; which of them is being edited, and whether one is
 * being put in.
 */
export function useEventActs({ song, tracks, events, index }: Listed, chosen: ReadonlySet<number>) {
  const [editing, setEditing] = useState<number>();
  const [inserting, insert] = useState(false);
  const step = useStep(song.id, song.revision);
  const remove = (): void => {
    if (chosen.size > 0)
      step.mutate({
        operation: 'events.delete',
        settings: { rows: spansOf(chosen, index, tracks) },
      });
  };
  const edit = (n: number): void => {
    const t = index.track[n];
    if (t === undefined) return;
    insert(false);
    setEditing(n);
  };
  const keep = (n: number, typed: Typed): string | undefined => {
    const [t, row] = [index.track[n]!, index.row[n]!];
    const edited = editedEvent(events[t]!, row, typed, song);
    if ('wrong' in edited) return edited.wrong;
    step.mutate({ operation: 'events.edit', settings: { track: tracks[t]!.id, row, ...edited } });
    setEditing(undefined);
    return undefined;
  };
  return {
    step,
    editing,
    inserting,
    insert,
    remove,
    edit,
    keep,
    cancel: () => setEditing(undefined),
  };
}

/** What the step is asked to change of an event: what differs from how it is; or what is wrong with what was typed. */
function editedEvent(
  events: Events,
  row: number,
  { atTick, channel, fields }: Typed,
  { encoding }: SongView,
): { readonly wrong: string } | (EventParts & { atTick?: number; channel?: number }) {
  const [status, data1] = [events.status[row]!, events.data1[row]!];
  const parts = partsFrom(status, data1, fields, payloadOf(events, row), encoding);
  if ('wrong' in parts) return parts;
  return {
    ...(atTick === events.atTick[row] ? {} : { atTick }),
    ...(channel === undefined ? {} : { channel }),
    ...parts,
  };
}
