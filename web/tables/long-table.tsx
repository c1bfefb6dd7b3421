import { FlexRender } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import { sideOf, tracksOf, useRows, type Column, type TableRow } from './use-rows.tsx';

interface Props<T> {
  readonly label: string;
  readonly columns: readonly Column<T>[];
  readonly rows: readonly T[];
  readonly keyOf: (row: T) => string;
  /** Of most rows, in pixels; those that are higher take what they need. */
  readonly rowHeight: number;
  /** How many rows there are, where more are to come than are here. */
  readonly total?: number;
  /** What stands in a row's place of all its cells; undefined for the cells. */
  readonly whole?: (row: T) => ReactNode | undefined;
  readonly rowLook?: (row: T) => string;
  /** The row that is pointed at, or in which the focus is; undefined for none any more. */
  readonly point?: (row: T | undefined) => void;
  /** The last rows that are here have come into view. */
  readonly nearEnd?: () => void;
  readonly foot?: ReactNode;
}

/** A table however long: only the rows in view are drawn, and the head stays. */
export function LongTable<T extends object>(props: Props<T>) {
  const { label, columns, rows, rowHeight, total, whole, rowLook, point, foot } = props;
  const { scroller, headers, drawn, height, measure } = useDrawnRows(props);
  const grid = tracksOf(columns);
  return (
    <div
      role="table"
      aria-label={label}
      aria-rowcount={(total ?? rows.length) + 1}
      className="keeps-height relative flex min-h-0 flex-1 overflow-x-auto"
    >
      <div
        role="presentation"
        className="flex min-h-0 flex-1 flex-col"
        style={{ minWidth: leastWidth(columns) }}
      >
        <Heads headers={headers} columns={columns} />
        <div
          ref={scroller}
          role="rowgroup"
          tabIndex={0}
          aria-label="Rows"
          className="min-h-0 flex-1 overflow-y-auto pb-6"
        >
          <div role="presentation" className="relative" style={{ height }}>
            {drawn.map(({ key, row, top }) => {
              const instead = whole?.(row.original);
              return (
                <div
                  key={key}
                  ref={measure}
                  data-index={row.index}
                  role="row"
                  aria-rowindex={row.index + 2}
                  className={`absolute inset-x-0 border-b border-line ${instead === undefined ? 'grid items-center hover:bg-sheet' : ''} ${rowLook?.(row.original) ?? ''}`}
                  style={{ top, minHeight: rowHeight, ...(instead === undefined ? grid : {}) }}
                  {...pointing(point, row.original)}
                >
                  {instead === undefined ? (
                    <Cells row={row} columns={columns} />
                  ) : (
                    <div role="cell">{instead}</div>
                  )}
                </div>
              );
            })}
          </div>
          {foot}
        </div>
      </div>
    </div>
  );
}

const Heads = <T extends object>({
  headers,
  columns,
}: Pick<ReturnType<typeof useRows<T>>, 'headers'> & { columns: readonly Column<T>[] }) => (
  <div
    role="row"
    aria-rowindex={1}
    className="grid border-b border-line text-[12px] text-faint"
    style={tracksOf(columns)}
  >
    {headers.map((header, n) => (
      <span key={header.id} role="columnheader" className={`px-2 py-1 ${sideOf(columns[n]!)}`}>
        <FlexRender header={header} />
      </span>
    ))}
  </div>
);

/** The heads of the columns, the rows in view with where they stand, and how high all rows are together. */
function useDrawnRows<T extends object>({ columns, rows, keyOf, rowHeight, nearEnd }: Props<T>) {
  const scroller = useRef<HTMLDivElement>(null);
  const { headers, rows: all } = useRows(columns, rows, keyOf);
  const { getVirtualItems, getTotalSize, measureElement } = useVirtualizer({
    count: all.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
    getItemKey: (n) => all[n]!.id,
  });
  const items = getVirtualItems();
  const last = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (last >= all.length - 20) nearEnd?.();
  }, [last, all.length, nearEnd]);
  return {
    scroller,
    headers,
    drawn: items.map(({ key, index, start }) => ({ key, row: all[index]!, top: start })),
    height: getTotalSize(),
    measure: measureElement,
  };
}

/** What columns need that take what there is. */
const leastOfOne = 130;

/** The lengths in pixels that a width of columns names. */
const pixelsIn = (width: string): number[] =>
  width
    .split(/[^\da-z]+/)
    .filter((length) => length.endsWith('px'))
    .map((length) => Number.parseInt(length, 10));

/** Where there is less room than the columns need, the table is scrolled sideways. */
const leastWidth = <T,>(columns: readonly Column<T>[]): number =>
  columns.reduce((sum, { width }) => {
    const pixels = Math.max(0, ...pixelsIn(width));
    return sum + (pixels || leastOfOne);
  }, 0);

/** By pointer and by focus alike. */
const pointing = <T,>(point: ((row: T | undefined) => void) | undefined, row: T) =>
  point && {
    onPointerEnter: () => point(row),
    onPointerLeave: () => point(undefined),
    onFocus: () => point(row),
    onBlur: () => point(undefined),
  };

/** What stands in a cell is no component of its own: that would be another one whenever the columns are made anew. */
const Cells = <T extends object>({
  row,
  columns,
}: {
  row: TableRow<T>;
  columns: readonly Column<T>[];
}) =>
  columns.map((column) => (
    <div key={column.id} role="cell" className={`min-w-0 px-2 ${sideOf(column)}`}>
      {column.cell(row.original, row.index)}
    </div>
  ));
