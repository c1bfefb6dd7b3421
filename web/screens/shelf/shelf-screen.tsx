import { useEffect, useMemo, useState } from 'react';
import { useOutletContext } from 'react-router';
import type { ClipView } from '#contracts/shelf.ts';
import type { SongView } from '#contracts/songs.ts';
import { narrowed } from '#core/shelf/narrow.ts';
import { problemOf } from '../../api/client.ts';
import { useClipPages } from '../../api/shelf.ts';
import { PageHead } from '../../components/page-head.tsx';
import { PageProblem } from '../../components/problem-note.tsx';
import { hushClip } from '../../sound/clips.ts';
import { useShelf } from '../../state/shelf.ts';
import { ClipBar } from './clip-bar.tsx';
import { ClipList } from './clip-list.tsx';
import { Folders } from './folders.tsx';
import { HeardWith } from './heard-with.tsx';
import { Narrowing } from './narrowing.tsx';

/** The shelf beside a song that is open, within its frame. */
export function SongShelfScreen() {
  const song = useOutletContext<SongView>();
  return <Shelf song={song} />;
}

/** The shelf by itself. */
export const ShelfScreen = () => (
  <div className="grid h-full grid-rows-[auto_minmax(0,1fr)]">
    <PageHead title="Shelf" />
    <Shelf song={undefined} />
  </div>
);

/** Clips in folders: narrowed, heard as they are gone through, and put into the song that is open. */
function Shelf({ song }: { song: SongView | undefined }) {
  const asked = useShelf((s) => s.asked);
  const pages = useClipPages(asked);
  const here = useLookedThrough();
  const [focus, setFocus] = useState(0);
  useEffect(() => hushClip, []);
  if (pages.isError) return <PageProblem problem={problemOf(pages.error)} />;
  const first = pages.data?.pages[0];
  const found = here ?? pages.data?.pages.flatMap((p) => p.clips) ?? [];
  const at = Math.min(focus, Math.max(0, found.length - 1));
  const total = here?.length ?? first?.total;
  return (
    <main aria-label="Shelf" className="beside grid min-h-0 grid-cols-[210px_minmax(0,1fr)]">
      <Folders />
      <div className="flex min-h-0 flex-col">
        <Narrowing
          meters={here ? [...new Set(here.map((c) => c.meter))].sort() : (first?.meters ?? [])}
          total={total}
        />
        <ClipList
          song={song}
          clips={found}
          total={total}
          focus={at}
          setFocus={setFocus}
          nearEnd={() => {
            if (!here && pages.hasNextPage && !pages.isFetchingNextPage) void pages.fetchNextPage();
          }}
        />
        {found[at] && <ClipBar key={found[at].id} clip={found[at]} />}
        <HeardWith song={song} />
      </div>
    </main>
  );
}

/** The clips of the folder that is looked through, narrowed; undefined where the shelf is. */
function useLookedThrough(): readonly ClipView[] | undefined {
  const { here, looking, asked } = useShelf();
  return useMemo(
    () => (looking && here ? narrowed(here.clips, asked) : undefined),
    [here, looking, asked],
  );
}
