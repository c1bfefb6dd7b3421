import { ArrowRight } from 'lucide-react';
import type { SongView } from '#contracts/songs.ts';
import { Button } from '../../components/button.tsx';
import { ChooseMore } from '../../components/choose-files.tsx';
import { Account, InShort } from './account.tsx';
import { AsSong } from './as-song.tsx';
import { BringTracks } from './bring-tracks.tsx';
import { Kinds } from './kinds.tsx';
import { NamedIntakes } from './named-intakes.tsx';
import { Place } from './place.tsx';
import { Several } from './several.tsx';
import { useBringing } from './use-bringing.ts';
import { useEnter } from './use-enter.ts';
import { Sources, WhatItHolds } from './what-it-holds.tsx';

/** What files and other songs hold, beside the bars of this one, before anything of them is taken. */
export function BringScreen({ song }: { song: SongView }) {
  const bringing = useBringing(song);
  const { sources, source, at, current, want } = bringing;
  useEnter(bringing.take);
  return (
    <main
      aria-label="Bring in"
      className="beside grid min-h-0 grid-cols-[minmax(0,1fr)_330px] overflow-hidden"
    >
      <div className="min-h-0 overflow-auto px-5 py-4">
        {sources.length > 1 && (
          <Sources
            names={sources.map(({ name }) => name.called ?? 'a file')}
            at={at}
            show={bringing.show}
          />
        )}
        {source ? (
          <WhatItHolds
            called={source.name.called ?? 'A file'}
            song={song}
            sha256={'original' in source.name ? source.name.original : undefined}
            {...bringing.shown!}
          />
        ) : (
          <p>This address names nothing to take from.</p>
        )}
        {current && <BringTracks song={song} source={current} set={want} />}
        <Account preview={bringing.preview} asked={bringing.asked} />
      </div>
      <aside
        aria-label="How it comes in"
        className="min-h-0 overflow-auto border-l border-line bg-sheet px-3 pt-4"
      >
        {current && (
          <>
            {sources.length > 1 && (
              <Several
                song={song}
                layout={bringing.layout}
                set={bringing.setLayout}
                forAll={bringing.wantOfAll}
              />
            )}
            <Place
              song={song}
              held={current.held}
              wanted={current.wanted}
              fixed={bringing.layout.way === 'behind' && at > 0}
              set={want}
            />
            <NamedIntakes song={song} held={current.held} wanted={current.wanted} set={want} />
            <Kinds held={current.held} song={song} wanted={current.wanted} set={want} />
          </>
        )}
        <Ways song={song} bringing={bringing} />
      </aside>
    </main>
  );
}

/** It comes in, or not now; more files with it, or the file as a song of its own. */
function Ways({ song, bringing }: { song: SongView; bringing: ReturnType<typeof useBringing> }) {
  const { preview, asked, may, take, leave, source } = bringing;
  return (
    <div className="sticky bottom-0 mt-3 flex flex-wrap gap-2 border-t border-line bg-sheet py-3">
      <InShort preview={preview} asked={asked} />
      <Button kind="next" disabled={!may} onClick={take} title="Enter">
        Bring in <ArrowRight size={14} aria-hidden />
      </Button>
      <ChooseMore song={song.id} />
      {source && 'original' in source.name && (
        <AsSong sha256={source.name.original} called={source.name.called ?? 'file.mid'} />
      )}
      <Button onClick={leave}>Not now</Button>
    </div>
  );
}
