import { formatDistanceToNow } from 'date-fns';
import { Trash2, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import { useFindings, useRemoveSong, useRestoreSong } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { count, duration, fileSize, longDate } from '../../components/text.ts';
import { Tags } from './tags.tsx';
import type { Column } from '../../tables/use-rows.tsx';

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
export const songColumns = (
  removed: boolean,
  find: (tag: string) => void,
): readonly Column<SongRow>[] => [
  {
    id: 'name',
    heading: 'Name',
    width: 'minmax(0,1fr)',
    cell: (song) => <Name song={song} removed={removed} find={find} />,
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
    cell: (song) => <Kept song={song} />,
  },
  {
    id: 'state',
    heading: 'State',
    width: '170px',
    cell: (song) => (
      <div className="truncate leading-tight">
        {!removed && <Open song={song} />}
        <span className="block truncate text-[12px] text-faint">
          <State song={song} />
        </span>
      </div>
    ),
  },
  {
    id: 'when',
    heading: removed ? 'Purged' : 'Last touched',
    width: '150px',
    cell: (song) => <When song={song} removed={removed} />,
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

function Name({
  song,
  removed,
  find,
}: {
  song: SongRow;
  removed: boolean;
  find: (tag: string) => void;
}) {
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
      <span className="flex items-center gap-2">
        {other && (
          <span className="min-w-0 truncate text-[12px] leading-4 text-faint">
            from {song.fileName}
          </span>
        )}
        {!removed && <Tags song={song} find={find} />}
      </span>
    </>
  );
}

/** When it was handed off last, to whom, and whether it has changed since. */
function HandedOff({ song: { id, handedOff, revision } }: { song: SongRow }) {
  if (!handedOff) return null;
  const ago = formatDistanceToNow(new Date(handedOff.at), { addSuffix: true });
  const changed = handedOff.revision === revision ? '' : ', changed since';
  const says = `handed off ${ago}${handedOff.to ? ` to ${handedOff.to}` : ''}${changed}`;
  return (
    <Link
      to={`/songs/${id}/out`}
      title={says}
      className={`block truncate text-[12px] ${changed ? 'text-ochre' : 'text-faint'}`}
    >
      {says}
    </Link>
  );
}

/** Findings that are open; a song that was not looked over as it is, is now. */
function Open({ song }: { song: SongRow }) {
  const looked = useFindings(song.id, song.revision, song.openFindings === undefined).data;
  const open = song.openFindings ?? looked?.findings.filter((f) => !f.leftAlone).length;
  if (open === undefined) return <span className="block text-faint">looking …</span>;
  if (open === 0) return <span className="block text-moss">nothing open</span>;
  return (
    <Link
      className="block truncate text-ochre underline decoration-dotted underline-offset-4"
      to={`/songs/${song.id}`}
    >
      {count(open, 'finding')} open
    </Link>
  );
}

function State({ song }: { song: SongRow }) {
  if (song.problems === 0 && song.steps === 0) return 'as received';
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

/** When it was touched last and handed off, or when a removed one is purged. */
const When = ({ song, removed }: { song: SongRow; removed: boolean }) => (
  <div className="truncate leading-tight">
    {removed
      ? song.purgeAt
        ? longDate(song.purgeAt)
        : 'never'
      : formatDistanceToNow(new Date(song.updatedAt), { addSuffix: true })}
    {!removed && <HandedOff song={song} />}
  </div>
);

const Kept = ({ song }: { song: SongRow }) => (
  <span className="num" title="The original, and the events of all its revisions and handoffs">
    {fileSize(song.keptBytes ?? song.bytes)}
  </span>
);
