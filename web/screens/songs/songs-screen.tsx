import { formatDistanceToNow } from 'date-fns';
import { Trash2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import { problemOf } from '../../api/client.ts';
import { useRemoveSong, useRestoreSong, useSongs } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { ChooseFiles } from '../../components/choose-files.tsx';
import { PageTools } from '../../components/page-tools.tsx';
import { PageProblem } from '../../components/problem-note.tsx';
import { count, duration } from '../../components/text.ts';
import { Arrivals } from './arrivals.tsx';

/** Home: what is here, and the place to bring more. */
export function SongsScreen() {
  const [removed, setRemoved] = useState(false);
  const songs = useSongs(removed);
  if (songs.isError) return <PageProblem problem={problemOf(songs.error)} />;
  return (
    <div className="mx-auto flex min-h-full max-w-[1180px] flex-col px-6 pb-10">
      <header className="flex items-center gap-3 py-4">
        <img src="/mark.svg" alt="" width={30} height={30} />
        <h1 className="text-[19px] font-semibold">Amber Satchel</h1>
        <p className="text-faint">Multitrack MIDI between programs, with nothing lost on the way</p>
        <div className="ml-auto flex items-center gap-2">
          <Link to="/recipes" className="underline decoration-line underline-offset-4 hover:decoration-amber">
            Recipes
          </Link>
          <PageTools />
        </div>
      </header>
      <main className="flex flex-1 flex-col gap-4">
        <section aria-label="Bring files in" className="flex items-center gap-4 rounded-lg border-2 border-dashed border-line bg-sheet px-5 py-4">
          <div>
            <p className="text-[15px] font-semibold">Drop MIDI files anywhere on the page</p>
            <p className="text-faint">.mid, .midi, .kar and .rmi, one or forty at once. The original of each is kept as it came.</p>
          </div>
          <div className="ml-auto">
            <ChooseFiles />
          </div>
        </section>
        <Arrivals />
        <section aria-label="Songs">
          <div className="mb-1 flex items-baseline gap-4">
            <h2 className="text-[15px] font-semibold">{removed ? 'Removed songs' : 'Songs'}</h2>
            <button type="button" className="ml-auto text-faint underline decoration-line underline-offset-4 hover:text-ink" onClick={() => setRemoved(!removed)}>
              {removed ? 'Back to the songs' : 'Show removed ones'}
            </button>
          </div>
          <SongTable songs={songs.data} removed={removed} />
        </section>
      </main>
    </div>
  );
}

function SongTable({ songs, removed }: { songs: SongRow[] | undefined; removed: boolean }) {
  if (!songs) return <p className="py-6 text-faint">Looking …</p>;
  if (songs.length === 0) return <p className="rounded-lg border border-line bg-sheet p-6 text-faint">{removed ? 'No song has been removed.' : 'No songs yet. Drop a file to begin: you will see what it holds before you do anything with it.'}</p>;
  return (
    <table className="w-full border-collapse">
      <thead className="text-left text-[12px] text-faint">
        <tr className="border-b border-line [&>th]:px-2 [&>th]:py-1 [&>th]:font-normal">
          <th>Name</th>
          <th className="text-right">Tracks</th>
          <th className="text-right">Notes</th>
          <th className="text-right">Bars</th>
          <th className="text-right">Length</th>
          <th className="text-right">Format</th>
          <th>State</th>
          <th>Last touched</th>
          <th>
            <span className="sr-only">Actions</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {songs.map((song) => (
          <SongLine key={song.id} song={song} removed={removed} />
        ))}
      </tbody>
    </table>
  );
}

function SongLine({ song, removed }: { song: SongRow; removed: boolean }) {
  const remove = useRemoveSong();
  const restore = useRestoreSong();
  const other = song.fileName.replace(/\.\w+$/, '') !== song.title;
  return (
    <tr className="border-b border-line hover:bg-sheet [&>td]:px-2 [&>td]:py-1.5">
      <td className="max-w-[340px]">
        {removed ? (
          <span className="font-semibold">{song.title}</span>
        ) : (
          <Link className="font-semibold underline decoration-line underline-offset-4 hover:decoration-amber" to={`/songs/${song.id}`}>
            {song.title}
          </Link>
        )}
        {other && <span className="block truncate text-[12px] text-faint">from {song.fileName}</span>}
      </td>
      <td className="num text-right">{song.tracks}</td>
      <td className="num text-right">{song.notes.toLocaleString('en')}</td>
      <td className="num text-right">{song.bars.toLocaleString('en')}</td>
      <td className="num text-right">{duration(song.seconds)}</td>
      <td className="num text-right">{song.format}</td>
      <td>
        {song.problems > 0 && (
          <Link className="text-ochre underline decoration-dotted underline-offset-4" to={`/songs/${song.id}/in`}>
            {count(song.problems, 'fault')} mended
          </Link>
        )}
        {song.problems > 0 && song.steps > 0 && ', '}
        {song.steps > 0 && count(song.steps, 'step')}
        {song.problems === 0 && song.steps === 0 && <span className="text-faint">as received</span>}
      </td>
      <td className="text-faint">{formatDistanceToNow(new Date(song.updatedAt), { addSuffix: true })}</td>
      <td className="text-right">
        {removed ? (
          <Button kind="quiet" onClick={() => restore.mutate(song)} aria-label={`Bring ${song.title} back`}>
            <Undo2 size={14} aria-hidden /> Bring back
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => remove.mutate(song)} aria-label={`Remove ${song.title}`} title="Remove (it can be brought back)">
            <Trash2 size={14} aria-hidden />
          </Button>
        )}
      </td>
    </tr>
  );
}
