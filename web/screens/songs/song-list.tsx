import { lazy, Suspense, useCallback, useDeferredValue, useMemo, useState } from 'react';
import type { SongListQuery } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useSongPages } from '../../api/queries.ts';
import { PageProblem } from '../../components/problem-note.tsx';
import { count } from '../../components/text.ts';
import { Choice } from '../../fields/choice.tsx';
import { LongTable } from '../../tables/long-table.tsx';
import { songColumns } from './song-columns.tsx';

const sorts: readonly { readonly sort: SongListQuery['sort']; readonly says: string }[] = [
  { sort: 'newest', says: 'newest first' },
  { sort: 'oldest', says: 'oldest first' },
  { sort: 'touched', says: 'last touched first' },
  { sort: 'name', says: 'by name' },
  { sort: 'largest', says: 'largest first' },
];

const rowHeight = 42;

/** It has the demo songs with it, which nobody needs who has songs. */
const FirstMinute = lazy(() => import('./first-minute.tsx'));

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
          <input
            type="search"
            aria-label="Search songs"
            placeholder="Search by name, file or tag"
            className="w-72 rounded border border-line bg-sheet px-2 py-1"
            value={search}
            onChange={(e) => setSearch(e.target.value)}
          />
          <Choice
            label="Order"
            className="py-1"
            value={sort}
            options={sorts.map((s) => [s.sort, s.says] as const)}
            set={setSort}
          />
          <p className="ml-auto text-faint" aria-live="polite">
            {total !== undefined &&
              (asked
                ? `${count(total, 'song')} found`
                : count(total, removed ? 'removed song' : 'song'))}
          </p>
        </div>
      )}
      {removed && !nothingAtAll && (
        <p className="mb-2 text-[12.5px] text-faint">
          {keepDays > 0
            ? `Removed songs are kept for ${count(keepDays, 'day')}, then purged with their history and handoffs.`
            : 'Removed songs are kept until they are brought back.'}
        </p>
      )}
      {nothingAtAll && !removed ? (
        <Suspense>
          <FirstMinute />
        </Suspense>
      ) : (
        <Rows
          pages={pages}
          removed={removed}
          total={total}
          find={setSearch}
          empty={removed && asked === '' ? 'No song has been removed.' : 'No song is called so.'}
        />
      )}
    </>
  );
}

function Rows({
  pages,
  removed,
  total,
  empty,
  find,
}: {
  pages: ReturnType<typeof useSongPages>;
  removed: boolean;
  total: number | undefined;
  empty: string;
  find: (tag: string) => void;
}) {
  const { data, hasNextPage, isFetchingNextPage, fetchNextPage } = pages;
  const songs = useMemo(() => data?.pages.flatMap((p) => p.songs) ?? [], [data]);
  const columns = useMemo(() => songColumns(removed, find), [removed, find]);
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  if (total === undefined) return <p className="py-6 text-faint">Looking …</p>;
  if (total === 0)
    return <p className="rounded-lg border border-line bg-sheet p-6 text-faint">{empty}</p>;
  return (
    <LongTable
      label={removed ? 'Removed songs' : 'Songs'}
      columns={columns}
      rows={songs}
      keyOf={(song) => song.id}
      rowHeight={rowHeight}
      total={total}
      nearEnd={more}
      foot={isFetchingNextPage && <p className="py-2 text-center text-faint">Looking for more …</p>}
    />
  );
}
