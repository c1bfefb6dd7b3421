import { createColumnHelper, tableFeatures, useTable, type Row } from '@tanstack/react-table';
import { useMemo, type ReactNode } from 'react';

/** A column: its heading, how wide it is (as grid tracks are said), and what stands in it. */
export interface Column<T> {
  readonly id: string;
  readonly heading: string;
  /** The heading is heard and not seen. */
  readonly hidden?: boolean;
  readonly width: string;
  readonly align?: 'right';
  /** Classes of its cells. */
  readonly look?: string;
  readonly cell: (row: T, index: number) => ReactNode;
}

const features = tableFeatures({});
export type TableRow<T extends object> = Row<typeof features, T>;

/** The heads of columns and the rows of what is given, by the table library. */
export function useRows<T extends object>(
  columns: readonly Column<T>[],
  rows: readonly T[],
  keyOf: (row: T) => string,
) {
  const helper = useMemo(() => createColumnHelper<typeof features, T>(), []);
  const defined = useMemo(
    () =>
      columns.map((c) =>
        helper.display({
          id: c.id,
          header: () => (c.hidden ? <span className="sr-only">{c.heading}</span> : c.heading),
        }),
      ),
    [helper, columns],
  );
  const table = useTable({ features, data: rows, columns: defined, getRowId: keyOf });
  return {
    headers: table.getHeaderGroups()[0]?.headers ?? [],
    rows: table.getRowModel().rows,
  };
}

/** The columns as the tracks of a grid. */
export const tracksOf = <T,>(columns: readonly Column<T>[]): { gridTemplateColumns: string } => ({
  gridTemplateColumns: columns.map((c) => c.width).join(' '),
});

export const sideOf = ({ align }: { readonly align?: 'right' }): string =>
  align === 'right' ? 'text-right' : '';
