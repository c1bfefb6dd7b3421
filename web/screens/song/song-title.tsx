import { Pencil } from 'lucide-react';
import { useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useStep } from '../../api/queries.ts';
import { NameField } from '../../components/name-field.tsx';

/** The song's name, changed in place. */
export function SongTitle({ song }: { song: SongView }) {
  const [editing, setEditing] = useState(false);
  const step = useStep(song.id, song.revision);
  if (editing) {
    return (
      <NameField
        label="Name of the song"
        initial={song.title}
        className="w-[340px] text-[17px] font-semibold"
        done={(title) => {
          setEditing(false);
          if (title !== undefined && title !== song.title)
            step.mutate({ operation: 'song.name', settings: { title } });
        }}
      />
    );
  }
  return (
    <h1 className="min-w-0">
      <button
        type="button"
        className="group flex max-w-[52vw] items-center gap-2 rounded px-1 text-[17px] font-semibold"
        onClick={() => setEditing(true)}
        title="Name the song"
      >
        <span className="truncate">{song.title}</span>
        <Pencil
          size={13}
          className="shrink-0 text-faint opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100"
          aria-hidden
        />
      </button>
    </h1>
  );
}
