import { useMemo, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep, type StepAsked } from '../../api/queries.ts';
import { useStepQueue } from '../../step/use-step-queue.ts';
import { hearAgain, toggleHeard } from '../../state/hearing.ts';
import { useScope } from '../../state/scope.ts';
import { useOffer } from '../../state/commands.ts';
import { say } from '../../messages/messages.ts';

/** What can be done to the selected tracks, by pointer, by keys and from the palette alike. */
export interface TrackActions {
  readonly selected: ReadonlySet<string>;
  /** Track whose name is being typed. */
  readonly editing: string | undefined;
  /** Tracks of which is being chosen what plays them. */
  readonly choosing: readonly string[] | undefined;
  readonly busy: boolean;
  pick(id: string, how: { extend: boolean; add: boolean }): void;
  selectAll(): void;
  selectNone(): void;
  edit(id: string | undefined): void;
  rename(ids: readonly string[], name: string): void;
  remove(): void;
  /** Chooses what plays a track, or with it all that are selected; undefined ends that. */
  choose(id: string | undefined): void;
  /** Silences a track, or has it heard alone; with it all that are selected. */
  hear(what: 'silent' | 'alone', id: string): void;
  hearAgain(id: string): void;
  /** Looks at what may play all parts. */
  guess(): void;
  /** Moves the selected tracks one place up or down. */
  nudge(by: -1 | 1): void;
  /** Puts the selected tracks before another one, or at the end. */
  moveBefore(ids: readonly string[], before: string | null): void;
}

export function useTrackActions(song: SongView): TrackActions {
  const { tracks: selected, anchor, select } = useScope();
  const [editing, setEditing] = useState<string>();
  const [choosing, setChoosing] = useState<readonly string[]>();
  const { mutate, isPending } = useStep(song.id, song.revision);
  const { add } = useStepQueue(song);
  const actions = useMemo((): TrackActions => {
    const order = song.tracks.map((t) => t.id);
    // The map track stays first: the file format wants the tempo map there.
    const movable = movableOf(song);
    const chosen = movable.filter((id) => selected.has(id));
    const moveBefore = (ids: readonly string[], before: string | null): void => {
      if (ids.length > 0) mutate(placed(ids, before));
    };
    return {
      selected,
      editing,
      choosing,
      busy: isPending,
      pick(id, { extend, add }) {
        if (extend && anchor && order.includes(anchor)) {
          const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b) as [
            number,
            number,
          ];
          return select(order.slice(from, to + 1));
        }
        if (!add) return select([id], id);
        const next = new Set(selected);
        if (!next.delete(id)) next.add(id);
        select(next, id);
      },
      selectAll: () => select(order),
      selectNone: () => select([]),
      edit: setEditing,
      rename(ids, name) {
        setEditing(undefined);
        mutate({ operation: 'tracks.rename', settings: { name }, scope: { tracks: [...ids] } });
      },
      remove() {
        const ids = order.filter((id) => selected.has(id));
        if (ids.length > 0)
          mutate(
            { operation: 'tracks.remove', scope: { tracks: ids } },
            { onSuccess: () => select([]) },
          );
      },
      choose(id) {
        if (id === undefined) return setChoosing(undefined);
        const ids = (selected.has(id) ? chosen : [id]).filter((one) => movable.includes(one));
        if (ids.length > 0) setChoosing(ids);
        else say('The map plays nothing: choose a part.');
      },
      hear(what, id) {
        const ids = (selected.has(id) ? chosen : [id]).filter((one) => movable.includes(one));
        if (ids.length > 0) toggleHeard(song.id, what, ids);
      },
      hearAgain: (id) => hearAgain(song.id, [id]),
      guess: () => setChoosing([]),
      // Keys are pressed quicker than a step is taken: each goes on from where the last one leads.
      nudge: (by) => void add((now) => nudged(now, selected, by)),
      moveBefore,
    };
  }, [song, selected, anchor, select, editing, choosing, mutate, isPending, add]);
  useOffer('tracks', useOffered(actions));
  return actions;
}

const movableOf = ({ tracks, mapTrack }: SongView): string[] =>
  tracks.slice(mapTrack ? 1 : 0).map((t) => t.id);

/** Tracks put before another one, or at the end. */
const placed = (ids: readonly string[], before: string | null): StepAsked => ({
  operation: 'tracks.reorder',
  settings: { before },
  scope: { tracks: [...ids] },
});

/** Tracks one place up or down; nothing where there is no such place. */
function nudged(song: SongView, tracks: ReadonlySet<string>, by: -1 | 1): StepAsked | undefined {
  const movable = movableOf(song);
  const ids = movable.filter((id) => tracks.has(id));
  if (ids.length === 0) return undefined;
  const places = ids.map((id) => movable.indexOf(id));
  const target = by === -1 ? Math.min(...places) - 1 : Math.max(...places) + 2;
  if (target < 0 || target > movable.length) return undefined;
  return placed(ids, movable[target] ?? null);
}

function useOffered(actions: TrackActions) {
  return useMemo(() => {
    const { selected } = actions;
    const all = { title: 'Select all tracks', key: 'sheet-all' as const, run: actions.selectAll };
    const guess = { title: 'What may play the parts …', run: actions.guess };
    if (selected.size === 0) return [all, guess];
    const [first] = selected;
    const many = selected.size === 1 ? 'track' : `${selected.size} tracks`;
    return [
      all,
      guess,
      ...(selected.size === 1
        ? [
            {
              title: 'Rename the track',
              key: 'sheet-rename' as const,
              run: () => actions.edit(first),
            },
          ]
        : []),
      {
        title: `Choose what plays the ${many}`,
        key: 'sheet-instrument' as const,
        run: () => actions.choose(first),
      },
      {
        title: `Silence the ${many}, or hear ${selected.size === 1 ? 'it' : 'them'} again`,
        key: 'sheet-silent' as const,
        run: () => actions.hear('silent', first!),
      },
      {
        title: `Hear only the ${many}, or all again`,
        key: 'sheet-alone' as const,
        run: () => actions.hear('alone', first!),
      },
      { title: `Move the ${many} up`, key: 'sheet-up' as const, run: () => actions.nudge(-1) },
      { title: `Move the ${many} down`, key: 'sheet-down' as const, run: () => actions.nudge(1) },
      { title: `Remove the ${many}`, key: 'sheet-remove' as const, run: actions.remove },
      { title: 'Select nothing', run: actions.selectNone },
    ];
  }, [actions]);
}
