import { FlexRender } from '@tanstack/react-table';
import type { Virtualizer } from '@tanstack/react-virtual';
import { useMemo, type ReactNode } from 'react';
import { sideOf, tracksOf, useRows, type Column } from '../../tables/use-rows.tsx';
import { eventColumns, type EventInView } from './event-columns.ts';
import type { Listed } from './use-event-acts.ts';
import type { Wording } from './use-wording.ts';

export const eventRowHeight = 22;

type Virtual = Virtualizer<HTMLDivElement, Element>;
type Drawn = ReturnType<typeof useEventRows>;

/** Columns and rows in view. Only these are the table's: the list may hold millions, none of which is an object. */
export function useEventRows(list: Listed, virtual: Virtual, wording: Wording) {
  const columns = useMemo(() => eventColumns(wording), [wording]);
  return { columns, ...useRows(columns, useInView(list, virtual), keyOf) };
}

const keyOf = ({ n }: EventInView): string => String(n);

function useInView(
  { song, tracks, events, index }: Listed,
  virtual: Virtual,
): readonly EventInView[] {
  const labels = useMemo(
    () => tracks.map((t) => t.name || `track ${song.tracks.indexOf(t) + 1}`),
    [tracks, song.tracks],
  );
  const items = virtual.getVirtualItems();
  return useMemo(
    () =>
      items.map(({ index: n, start: top }) => ({
        n,
        top,
        events: events[index.track[n]!]!,
        row: index.row[n]!,
        label: labels[index.track[n]!]!,
      })),
    [items, events, index, labels],
  );
}

interface RowProps {
  readonly pick: (n: number, extend: boolean, add: boolean) => void;
  readonly edit: (n: number) => void;
}

/** The rows in view. */
export const EventRows = ({
  drawn: { rows, columns },
  height,
  chosen,
  ...acts
}: RowProps & { drawn: Drawn; height: number; chosen: ReadonlySet<number> }) => (
  <div className="relative" style={{ height }}>
    {rows.map(({ id, original }) => (
      <EventRow
        key={id}
        event={original}
        columns={columns}
        chosen={chosen.has(original.n)}
        {...acts}
      />
    ))}
  </div>
);

function EventRow({
  event,
  columns,
  chosen,
  pick,
  edit,
}: RowProps & {
  event: EventInView;
  columns: readonly Column<EventInView>[];
  chosen: boolean;
}) {
  const { n, top } = event;
  return (
    <div
      id={`event-${n}`}
      role="option"
      aria-selected={chosen}
      className={`absolute inset-x-0 grid cursor-default items-center gap-3 px-2 select-none ${chosen ? 'bg-amber-soft' : 'hover:bg-sheet'}`}
      style={{ top, height: eventRowHeight, ...tracksOf(columns) }}
      onClick={(e) => pick(n, e.shiftKey, e.ctrlKey || e.metaKey)}
      onDoubleClick={() => edit(n)}
    >
      {columns.map((column) => (
        <span key={column.id} className={`${column.look} ${sideOf(column)}`}>
          {column.cell(event, n)}
        </span>
      ))}
    </div>
  );
}

/** What stands beneath the names of the columns: both are scrolled sideways together. */
export const BeneathHeads = ({
  drawn: { columns, headers },
  children,
}: {
  drawn: Drawn;
  children: ReactNode;
}) => (
  <div className="keeps-height relative flex min-h-0 flex-1 overflow-x-auto">
    <div className="flex min-h-0 min-w-[860px] flex-1 flex-col">
      <div
        role="row"
        aria-hidden
        className="grid gap-3 border-b border-line px-2 text-[11.5px] text-faint"
        style={tracksOf(columns)}
      >
        {headers.map((header, n) => (
          <span key={header.id} className={sideOf(columns[n]!)}>
            <FlexRender header={header} />
          </span>
        ))}
      </div>
      <div className="relative flex min-h-0 flex-1 flex-col">{children}</div>
    </div>
  </div>
);
