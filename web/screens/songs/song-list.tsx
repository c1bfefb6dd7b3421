import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useEffect, useRef, useState } from 'react';
import type { SongListQuery } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useSongPages } from '../../api/queries.ts';
import { PageProblem } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { columns, SongLine } from './song-line.tsx';
import { Choice } from '../../fields/choice.tsx';

const sorts: readonly { readonly sort: SongListQuery['sort']; readonly says: string }[] = [
  { sort: 'newest', says: 'newest first' },
  { sort: 'oldest', says: 'oldest first' },
  { sort: 'touched', says: 'last touched first' },
  { sort: 'name', says: 'by name' },
  { sort: 'largest', says: 'largest first' },
];

const rowHeight = 42;

/** The songs, however many: pages come as they are scrolled to, and only the rows in view are drawn. */
export function SongList({ removed }: { removed: boolean }) {
  const [search, setSearch] = useState('');
  const [sort, setSort] = useState<SongListQuery['sort']>('newest');
  const asked = useDeferredValue(search.trim());
  const pages = useSongPages({ removed, search: asked, sort });
  if (pages.isError) return <PageProblem problem={problemOf(pages.error)} />;
  const total = pages.data?.pages[0]?.total;
  const keepDays = pages.data?.pages[0]?.keepRemovedDays ?? 0;
  const nothingAtAll = total === 0 && asked === '';
  return (
    <>
      {!nothingAtAll && (
        <div className="mb-2 flex items-center gap-3">
          <input type="search" aria-label="Search songs" placeholder="Search by name or file" className="w-72 rounded border border-line bg-sheet px-2 py-1" value={search} onChange={(e) => setSearch(e.target.value)} />
          <Choice label="Order" className="py-1" value={sort} options={sorts.map((s) => [s.sort, s.says] as const)} set={setSort} />
          <p className="ml-auto text-faint" aria-live="polite">
            {total !== undefined && (asked ? `${count(total, 'song')} found` : count(total, removed ? 'removed song' : 'song'))}
          </p>
        </div>
      )}
      {removed && !nothingAtAll && <p className="mb-2 text-[12.5px] text-faint">{keepDays > 0 ? `Removed songs are kept for ${count(keepDays, 'day')}, then purged with their history and handoffs.` : 'Removed songs are kept until they are brought back.'}</p>}
      <Rows pages={pages} removed={removed} total={total} empty={removed ? 'No song has been removed.' : nothingAtAll ? 'No songs yet. Drop a file to begin: you will see what it holds before you do anything with it.' : 'No song is called so.'} />
    </>
  );
}

function Rows({ pages, removed, total, empty }: { pages: ReturnType<typeof useSongPages>; removed: boolean; total: number | undefined; empty: string }) {
  const scroller = useRef<HTMLDivElement>(null);
  const songs = pages.data?.pages.flatMap((p) => p.songs) ?? [];
  const { getVirtualItems, getTotalSize } = useVirtualizer({ count: songs.length, getScrollElement: () => scroller.current, estimateSize: () => rowHeight, overscan: 8, getItemKey: (n) => songs[n]!.id });
  const drawn = getVirtualItems();
  const last = drawn.at(-1)?.index ?? 0;
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  useEffect(() => {
    if (last >= songs.length - 20 && hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [last, songs.length, hasNextPage, isFetchingNextPage, fetchNextPage]);
  if (total === undefined) return <p className="py-6 text-faint">Looking …</p>;
  if (total === 0) return <p className="rounded-lg border border-line bg-sheet p-6 text-faint">{empty}</p>;
  return (
    <div role="table" aria-label={removed ? 'Removed songs' : 'Songs'} aria-rowcount={total + 1} className="flex min-h-0 flex-1 flex-col">
      <div role="row" aria-rowindex={1} className={`grid border-b border-line text-[12px] text-faint ${columns}`}>
        {['Name', 'Tracks', 'Notes', 'Bars', 'Length', 'Kept', 'State', removed ? 'Purged' : 'Last touched'].map((name, n) => (
          <span key={name} role="columnheader" className={`px-2 py-1 ${n >= 1 && n <= 5 ? 'text-right' : ''}`}>
            {name}
          </span>
        ))}
        <span role="columnheader" className="sr-only">
          Actions
        </span>
      </div>
      <div ref={scroller} role="rowgroup" tabIndex={0} aria-label="Rows" className="min-h-0 flex-1 overflow-y-auto pb-6">
        <div role="presentation" className="relative" style={{ height: getTotalSize() }}>
          {drawn.map((item) => (
            <SongLine key={item.key} song={songs[item.index]!} removed={removed} index={item.index} top={item.start} height={rowHeight} />
          ))}
        </div>
        {isFetchingNextPage && <p className="py-2 text-center text-faint">Looking for more …</p>}
      </div>
    </div>
  );
}
