import { formatDistanceToNow } from 'date-fns';
import { Trash2, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import { useRemoveSong, useRestoreSong } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count, duration, fileSize, longDate } from '../../components/text.ts';

/** Widths of the columns, for the head and every row alike. */
export const columns = 'grid-cols-[minmax(0,1fr)_64px_84px_64px_76px_88px_170px_150px_116px]';

/** One song of the list. */
export function SongLine({ song, removed, index, top, height }: { song: SongRow; removed: boolean; index: number; top: number; height: number }) {
  const other = song.fileName.replace(/\.\w+$/, '') !== song.title;
  return (
    <div role="row" aria-rowindex={index + 2} className={`absolute inset-x-0 grid items-center border-b border-line hover:bg-sheet ${columns} [&>*]:px-2`} style={{ top, height }}>
      <div role="cell" className="min-w-0">
        {removed ? (
          <span className="block truncate font-semibold">{song.title}</span>
        ) : (
          <Link className="block truncate font-semibold underline decoration-line underline-offset-2 hover:decoration-amber" to={`/songs/${song.id}`} title={song.title}>
            {song.title}
          </Link>
        )}
        {other && <span className="block truncate text-[12px] leading-4 text-faint">from {song.fileName}</span>}
      </div>
      <span role="cell" className="num text-right">
        {song.tracks.toLocaleString('en')}
      </span>
      <span role="cell" className="num text-right">
        {song.notes.toLocaleString('en')}
      </span>
      <span role="cell" className="num text-right">
        {song.bars.toLocaleString('en')}
      </span>
      <span role="cell" className="num text-right">
        {duration(song.seconds)}
      </span>
      <span role="cell" className="num text-right" title="The original, and the events of all its revisions and handoffs">
        {fileSize(song.keptBytes ?? song.bytes)}
      </span>
      <span role="cell" className="truncate">
        <State song={song} />
      </span>
      <span role="cell" className="truncate text-faint">
        {removed ? (song.purgeAt ? longDate(song.purgeAt) : 'never') : formatDistanceToNow(new Date(song.updatedAt), { addSuffix: true })}
      </span>
      <span role="cell" className="text-right">
        <Act song={song} removed={removed} />
      </span>
    </div>
  );
}

function State({ song }: { song: SongRow }) {
  if (song.problems === 0 && song.steps === 0) return <span className="text-faint">as received</span>;
  return (
    <>
      {song.problems > 0 && (
        <Link className="text-ochre underline decoration-dotted underline-offset-4" to={`/songs/${song.id}/in`}>
          {count(song.problems, 'fault')} mended
        </Link>
      )}
      {song.problems > 0 && song.steps > 0 && ', '}
      {song.steps > 0 && count(song.steps, 'step')}
    </>
  );
}

function Act({ song, removed }: { song: SongRow; removed: boolean }) {
  const remove = useRemoveSong();
  const restore = useRestoreSong();
  if (removed) {
    return (
      <Button kind="quiet" onClick={() => restore.mutate(song)} aria-label={`Bring ${song.title} back`}>
        <Undo2 size={14} aria-hidden /> Bring back
      </Button>
    );
  }
  return (
    <Button kind="quiet" onClick={() => remove.mutate(song)} aria-label={`Remove ${song.title}`} title="Remove (it can be brought back)">
      <Trash2 size={14} aria-hidden />
    </Button>
  );
}
