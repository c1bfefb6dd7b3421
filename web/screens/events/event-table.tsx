import { EditInPlace } from './edit-in-place.tsx';
import { EditSeveralForm } from './edit-several.tsx';
import { countWords, EventActsBar } from './event-acts-bar.tsx';
import { BeneathHeads, eventRowHeight, EventRows, useEventRows } from './event-rows.tsx';
import { InsertEvent } from './insert-event.tsx';
import type { Listed } from './use-event-acts.ts';
import { useEventList } from './use-event-list.ts';
import { useWording, type Wording } from './use-wording.ts';

interface Props extends Listed {
  readonly narrowed: boolean;
  readonly behind: boolean;
  readonly steps: () => void;
}

/** Events as rows, of which only those in view are drawn: chosen, edited in place, deleted and inserted. */
export function EventTable({ narrowed, behind, steps, ...list }: Props) {
  const { song, events, index } = list;
  const wording = useWording(song);
  const { scroller, virtual, shown, chosen, focus, pick, onKeyDown, acts, cancel, keepSeveral } =
    useEventList(list, narrowed, behind);
  const { editing, inserting, edit, insert } = acts;
  const drawn = useEventRows(list, virtual, wording);
  return (
    <>
      <EventActsBar
        counted={countWords(index.count, shown, chosen.size)}
        chosen={chosen.size}
        busy={acts.busy}
        inserting={inserting}
        remove={acts.remove}
        removeShown={narrowed ? acts.removeShown : undefined}
        edit={() => edit(chosen.has(focus) ? focus : (chosen.values().next().value ?? focus))}
        insert={() => insert(!inserting)}
        steps={steps}
      />
      {inserting && <Inserting list={list} wording={wording} focus={focus} acts={acts} />}
      {acts.editingAll && chosen.size > 1 && (
        <EditSeveralForm list={list} chosen={chosen} done={keepSeveral} close={cancel} />
      )}
      <BeneathHeads drawn={drawn}>
        <div
          ref={scroller}
          tabIndex={0}
          role="listbox"
          data-begin
          aria-label="Events"
          aria-multiselectable
          aria-activedescendant={`event-${focus}`}
          className="min-h-0 flex-1 overflow-auto"
          onKeyDown={onKeyDown}
        >
          <EventRows
            drawn={drawn}
            height={virtual.getTotalSize()}
            chosen={chosen}
            pick={pick}
            edit={edit}
          />
        </div>
        {editing !== undefined && editing < index.count && (
          <EditInPlace
            song={song}
            events={events[index.track[editing]!]!}
            row={index.row[editing]!}
            wording={wording}
            top={editing * eventRowHeight - (virtual.scrollOffset ?? 0)}
            done={(typed) => acts.keep(editing, typed)}
            cancel={cancel}
          />
        )}
      </BeneathHeads>
    </>
  );
}

interface InsertingProps {
  readonly list: Listed;
  readonly wording: Wording;
  readonly focus: number;
  readonly acts: ReturnType<typeof useEventList>['acts'];
}

/** A new event, where the focus is and in its track. */
const Inserting = ({ list, wording, focus, acts }: InsertingProps) => (
  <InsertEvent
    song={list.song}
    tracks={list.tracks}
    meters={wording.meters}
    at={placeOf(list, wording, focus)}
    track={list.tracks[list.index.track[focus] ?? 0]!.id}
    step={acts.step}
    close={() => acts.insert(false)}
  />
);

/** Where a row stands, or the beginning where there is none. */
function placeOf({ events, index }: Listed, wording: Wording, n: number): string {
  const tick = events[index.track[n] ?? 0]?.atTick[index.row[n] ?? 0];
  return index.count > 0 ? wording.position(tick ?? 0) : '1.1.0';
}
