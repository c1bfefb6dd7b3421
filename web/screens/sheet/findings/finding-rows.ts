import {
  createExpandedRowModel,
  rowExpandingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useMemo } from 'react';
import type { FindingView } from '#contracts/findings.ts';

/** A finding, or all of one rule. */
export type Line = readonly FindingView[];

const features = tableFeatures({
  rowExpandingFeature,
  expandedRowModel: createExpandedRowModel(),
});
const oneByOne = (line: Line): Line[] | undefined =>
  line.length > 1 ? line.map((finding) => [finding]) : undefined;
const nameOf = (line: Line): string => (line.length > 1 ? line[0]!.rule : line[0]!.key);

/** Lines as rows, with those of a rule below it where it is unfolded; the one to which somebody came back is. */
export function useFindingRows(lines: readonly Line[], arrived: string | undefined) {
  // What is unfolded first is asked for once: the table keeps what becomes of it.
  const unfolded = useMemo(
    () => lines.find((line) => line.slice(1).some((f) => f.key === arrived)),
    [lines, arrived],
  );
  const table = useTable({
    features,
    data: lines,
    columns: [],
    getRowId: nameOf,
    getSubRows: oneByOne,
    autoResetExpanded: false,
    initialState: { expanded: unfolded ? { [nameOf(unfolded)]: true } : {} },
  });
  return table.getRowModel().rows;
}

/** Findings of one rule together, in the order of the rules. */
export function byRule(findings: readonly FindingView[]): Line[] {
  const groups = new Map<string, FindingView[]>();
  for (const f of findings) {
    const group = groups.get(f.rule);
    if (group) group.push(f);
    else groups.set(f.rule, [f]);
  }
  return [...groups.values()];
}
