import { useState } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { payloadOf, type Events } from '#core/smf/events.ts';
import type { EventIndex } from '#core/song/event-index.ts';
import { useStep } from '../../api/queries.ts';
import { usePreferences } from '../../state/preferences.ts';
import { spansOf } from '../../state/spans.ts';
import type { EditSeveral } from '#core/operations/events/edit-several/settings.ts';
import { awaitEvent, expectEvents } from './kept-events.ts';
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
export function useEventActs(
  { song, tracks, events, index }: Listed,
  chosen: ReadonlySet<number>,
  behind: boolean,
) {
  const [editing, setEditing] = useState<number>();
  const [inserting, insert] = useState(false);
  const [editingAll, editAll] = useState(false);
  const step = useStep(song.id, song.revision);
  // While the song is ahead of the list its rows mean others.
  const busy = step.isPending || behind;
  const remove = (): void => {
    if (chosen.size > 0 && !busy)
      step.mutate({
        operation: 'events.delete',
        settings: { rows: spansOf(chosen, index, tracks) },
      });
  };
  /** All that are listed, as one step; how many of each kind is said by it. */
  const removeShown = (): void => {
    if (index.count > 0 && !busy)
      step.mutate({
        operation: 'events.delete',
        settings: {
          rows: spansOf(
            Array.from({ length: index.count }, (_, n) => n),
            index,
            tracks,
          ),
        },
      });
  };
  /** Edits the event in focus; where it is one of several that are chosen, all of them. */
  const edit = (n: number): void => {
    const t = index.track[n];
    if (t === undefined || busy) return;
    insert(false);
    const several = chosen.size > 1 && chosen.has(n);
    editAll(several);
    setEditing(several ? undefined : n);
  };
  const keepSeveral = (asked: Omit<EditSeveral, 'rows'>): void => {
    const { channel, data1 } = asked;
    expectEvents({ song, tracks, events, index }, chosen, (status, first) => [
      channel !== undefined && status < 0xf0 ? (status & 0xf0) | (channel - 1) : status,
      data1 === undefined
        ? first
        : 'to' in data1
          ? data1.to
          : Math.min(127, Math.max(0, first + data1.by)),
    ]);
    step.mutate({
      operation: 'events.edit-several',
      settings: { rows: spansOf(chosen, index, tracks), ...asked },
    });
    editAll(false);
  };
  const keep = (n: number, typed: Typed): string | undefined => {
    const [t, row] = [index.track[n]!, index.row[n]!];
    const edited = editedEvent(events[t]!, row, typed, song);
    if ('wrong' in edited) return edited.wrong;
    const track = tracks[t]!.id;
    const { status, data1, atTick } = events[t]!;
    const channel = edited.channel === undefined ? status[row]! & 15 : edited.channel - 1;
    awaitEvent(song, {
      track,
      atTick: edited.atTick ?? atTick[row]!,
      is: `${status[row]! < 0xf0 ? (status[row]! & 0xf0) | channel : status[row]} ${edited.data1 ?? data1[row]}`,
    });
    step.mutate({ operation: 'events.edit', settings: { track, row, ...edited } });
    setEditing(undefined);
    return undefined;
  };
  return {
    step,
    busy,
    editing,
    editingAll,
    inserting,
    insert,
    remove,
    removeShown,
    edit,
    keep,
    keepSeveral,
    cancel: () => {
      setEditing(undefined);
      editAll(false);
    },
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
  const parts = partsFrom(status, data1, fields, payloadOf(events, row), {
    encoding,
    middleC: usePreferences.getState().middleC,
  });
  if ('wrong' in parts) return parts;
  return {
    ...(atTick === events.atTick[row] ? {} : { atTick }),
    ...(channel === undefined ? {} : { channel }),
    ...parts,
  };
}
