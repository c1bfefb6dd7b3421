import { formatDistanceToNow } from 'date-fns';
import { Trash2, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import { useRemoveSong, useRestoreSong } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count, duration, fileSize, longDate } from '../../components/text.ts';
import type { Column } from '../../tables/long-table.tsx';

const number = (
  id: 'tracks' | 'notes' | 'bars',
  heading: string,
  width: string,
): Column<SongRow> => ({
  id,
  heading,
  width,
  align: 'right',
  cell: (song) => <span className="num">{song[id].toLocaleString('en')}</span>,
});

/** What the list says of a song; of one that was removed, when it is purged and how it comes back. */
export const songColumns = (removed: boolean): readonly Column<SongRow>[] => [
  {
    id: 'name',
    heading: 'Name',
    width: 'minmax(0,1fr)',
    cell: (song) => <Name song={song} removed={removed} />,
  },
  number('tracks', 'Tracks', '64px'),
  number('notes', 'Notes', '84px'),
  number('bars', 'Bars', '64px'),
  {
    id: 'length',
    heading: 'Length',
    width: '76px',
    align: 'right',
    cell: (song) => <span className="num">{duration(song.seconds)}</span>,
  },
  {
    id: 'kept',
    heading: 'Kept',
    width: '88px',
    align: 'right',
    cell: (song) => (
      <span className="num" title="The original, and the events of all its revisions and handoffs">
        {fileSize(song.keptBytes ?? song.bytes)}
      </span>
    ),
  },
  {
    id: 'state',
    heading: 'State',
    width: '170px',
    cell: (song) => (
      <div className="truncate">
        <State song={song} />
      </div>
    ),
  },
  {
    id: 'when',
    heading: removed ? 'Purged' : 'Last touched',
    width: '150px',
    cell: (song) => (
      <div className="truncate text-faint">
        {removed
          ? song.purgeAt
            ? longDate(song.purgeAt)
            : 'never'
          : formatDistanceToNow(new Date(song.updatedAt), { addSuffix: true })}
      </div>
    ),
  },
  {
    id: 'actions',
    heading: 'Actions',
    hidden: true,
    width: '116px',
    align: 'right',
    cell: (song) => <Act song={song} removed={removed} />,
  },
];

function Name({ song, removed }: { song: SongRow; removed: boolean }) {
  const other = song.fileName.replace(/\.\w+$/, '') !== song.title;
  return (
    <>
      {removed ? (
        <span className="block truncate font-semibold">{song.title}</span>
      ) : (
        <Link
          className="block truncate font-semibold underline decoration-line underline-offset-2 hover:decoration-amber"
          to={`/songs/${song.id}`}
          title={song.title}
        >
          {song.title}
        </Link>
      )}
      {other && (
        <span className="block truncate text-[12px] leading-4 text-faint">
          from {song.fileName}
        </span>
      )}
    </>
  );
}

function State({ song }: { song: SongRow }) {
  if (song.problems === 0 && song.steps === 0)
    return <span className="text-faint">as received</span>;
  return (
    <>
      {song.problems > 0 && (
        <Link
          className="text-ochre underline decoration-dotted underline-offset-4"
          to={`/songs/${song.id}/in`}
        >
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
      <Button
        kind="quiet"
        onClick={() => restore.mutate(song)}
        aria-label={`Bring ${song.title} back`}
      >
        <Undo2 size={14} aria-hidden /> Bring back
      </Button>
    );
  }
  return (
    <Button
      kind="quiet"
      onClick={() => remove.mutate(song)}
      aria-label={`Remove ${song.title}`}
      title="Remove (it can be brought back)"
    >
      <Trash2 size={14} aria-hidden />
    </Button>
  );
}
