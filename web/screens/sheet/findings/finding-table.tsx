import {
  defaultRangeExtractor,
  useVirtualizer,
  type Range,
  type VirtualizerOptions,
} from '@tanstack/react-virtual';
import { useRef, useState, type RefObject } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useArrivedFinding } from './arrived-finding.ts';
import { FindingCard, GroupCard } from './finding-cards.tsx';
import { useFindingRows, type Line } from './finding-rows.ts';

/** So many are drawn as they are; of more only those in view, those that have the focus, and who was come back to. */
const few = 40;
/** About what a card needs, in pixels, before it is measured. */
const usualHeight = 96;

type FindingRow = ReturnType<typeof useFindingRows>[number];

/** Findings, each with what settles it; those of one rule together, and one by one where it is unfolded. */
export function FindingTable({ song, lines }: { song: SongView; lines: readonly Line[] }) {
  const rows = useFindingRows(lines, useArrivedFinding());
  const list = useRef<HTMLUListElement>(null);
  const { drawn, height, measure, hold } = useDrawnCards(list, rows);
  return (
    <ul ref={list} className="relative -mt-2" style={{ height }}>
      {drawn.map(({ row, at, top }) => (
        <li
          key={row.id}
          ref={measure}
          data-index={at}
          className={`pt-2 ${top === undefined ? '' : 'absolute inset-x-0'} ${row.depth > 0 ? 'border-l-3 border-ochre-fill pl-2.5' : ''}`}
          style={{ top }}
          onFocus={() => hold(at)}
        >
          {row.getCanExpand() ? (
            <GroupCard
              song={song}
              group={row.original}
              open={row.getIsExpanded()}
              unfold={() => row.toggleExpanded()}
            />
          ) : (
            <FindingCard song={song} finding={row.original[0]!} brief={row.depth > 0} />
          )}
        </li>
      ))}
    </ul>
  );
}

/** The rows that are drawn, and where, `top` in pixels of the list; undefined where they follow each other. */
function useDrawnCards(list: RefObject<HTMLUListElement | null>, rows: readonly FindingRow[]) {
  const arrived = useArrivedFinding();
  const [held, hold] = useState<number>();
  const all = rows.length <= few;
  const came = rows.findIndex((row) => row.original[0]!.key === arrived);
  const { getVirtualItems, getTotalSize, measureElement } = useVirtualizer<
    HTMLElement,
    HTMLElement
  >({
    enabled: !all,
    count: rows.length,
    getScrollElement: () => list.current?.closest('aside') ?? null,
    estimateSize: () => usualHeight,
    ...offsetsOf(list),
    overscan: 8,
    getItemKey: (n) => rows[n]!.id,
    rangeExtractor: (range) => withKept(range, [held, came]),
  });
  return {
    hold,
    measure: all ? undefined : measureElement,
    height: all ? undefined : getTotalSize(),
    drawn: all
      ? rows.map((row, at) => ({ row, at, top: undefined }))
      : getVirtualItems().map(({ index: at, start }) => ({
          row: rows[at]!,
          at,
          top: start,
        })),
  };
}

/** What is in view, and what is kept for whoever has it in hand. */
const withKept = (range: Range, kept: readonly (number | undefined)[]): number[] => {
  const there = kept.filter((n) => n !== undefined && n >= 0 && n < range.count) as number[];
  return [...new Set([...defaultRangeExtractor(range), ...there])].sort((a, b) => a - b);
};

/** The list stands in the margin below other things: its offsets count from its own top, whatever is above. */
function offsetsOf(list: RefObject<HTMLUListElement | null>) {
  /** How much of what is scrolled stands above the list, in pixels. */
  const above = (scroller: Element): number =>
    (list.current?.getBoundingClientRect().top ?? 0) -
    scroller.getBoundingClientRect().top +
    scroller.scrollTop;
  return {
    observeElementOffset: ({ scrollElement }, tell) => {
      const told = (): void => {
        if (scrollElement) tell(scrollElement.scrollTop - above(scrollElement), false);
      };
      told();
      scrollElement?.addEventListener('scroll', told, { passive: true });
      return () => scrollElement?.removeEventListener('scroll', told);
    },
    scrollToFn: (offset, { adjustments = 0, behavior }, { scrollElement }) => {
      if (!scrollElement) return;
      const top = offset + adjustments + above(scrollElement);
      scrollElement.scrollTo({ top, ...(behavior ? { behavior } : {}) });
    },
  } satisfies Partial<VirtualizerOptions<HTMLElement, HTMLElement>>;
}
