import { useState } from 'react';
import { Link } from 'react-router';
import { ChooseFiles } from '../../components/choose-files.tsx';
import { MessageLine } from '../../messages/message-line.tsx';
import { PageTools } from '../../components/page-tools.tsx';
import { Arrivals } from './arrivals.tsx';
import { BeginSong } from './begin-song.tsx';
import { SongList } from './song-list.tsx';

/** What is of no one song. */
const elsewhere = [
  ['/recipes', 'Recipes'],
  ['/receivers', 'Receivers'],
  ['/shelf', 'Shelf'],
  ['/instruments', 'Instruments'],
] as const;

/** Home: what is here, and the place to bring more. */
export function SongsScreen() {
  const [removed, setRemoved] = useState(false);
  return (
    <div className="mx-auto flex h-full max-w-[1180px] relative flex-col overflow-y-auto px-6">
      <header className="flex flex-wrap items-center gap-3 py-4 md:flex-nowrap">
        <img src="/mark.svg" alt="" width={30} height={30} />
        <h1 className="text-[19px] font-semibold">Amber Satchel</h1>
        <MessageLine
          idle={
            <p className="truncate text-faint">
              Multitrack MIDI between programs, with nothing lost on the way
            </p>
          }
        />
        <div className="flex flex-wrap items-center gap-2">
          {elsewhere.map(([to, name]) => (
            <Link
              key={to}
              to={to}
              className="mr-2 underline decoration-line underline-offset-4 hover:decoration-amber"
            >
              {name}
            </Link>
          ))}
          <PageTools />
        </div>
      </header>
      <main aria-label="Songs" className="flex min-h-0 flex-1 flex-col gap-4">
        <WaysIn />
        <Arrivals />
        <section aria-label="Songs" className="keeps-height flex min-h-0 flex-1 flex-col">
          <div className="mb-1 flex items-baseline gap-4">
            <h2 className="text-[15px] font-semibold">{removed ? 'Removed songs' : 'Songs'}</h2>
            <button
              type="button"
              className="ml-auto text-faint underline decoration-line underline-offset-4 hover:text-ink"
              onClick={() => setRemoved(!removed)}
            >
              {removed ? 'Back to the songs' : 'Show removed ones'}
            </button>
          </div>
          <SongList key={String(removed)} removed={removed} />
        </section>
      </main>
    </div>
  );
}

const WaysIn = () => (
  <section
    aria-label="Bring files in"
    className="flex flex-wrap items-center gap-4 rounded-lg border-2 border-dashed border-line bg-sheet px-5 py-4 md:flex-nowrap"
  >
    <div>
      <p className="text-[15px] font-semibold">Drop MIDI files anywhere on the page</p>
      <p className="text-faint">
        .mid, .midi, .kar and .rmi, one or forty at once, folders and zip archives too. The original
        of each is kept as it came.
      </p>
    </div>
    <div className="ml-auto flex shrink-0 gap-2">
      <BeginSong />
      <ChooseFiles />
    </div>
  </section>
);
