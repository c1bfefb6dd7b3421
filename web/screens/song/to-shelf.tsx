import { useId, useState, type KeyboardEvent } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { useCutClip, useFolders } from '../../api/shelf.ts';
import { Button } from '../../components/button.tsx';
import { input } from '../../fields/field.ts';
import { lastFolder, rememberFolder } from '../../state/shelf.ts';
import { useScope, type Bars } from '../../state/scope.ts';
import { instrumentText } from '../../tracks/glyph.tsx';

/** Puts the scope on the shelf: its name and folder in one line, Enter does it. */
export function ToShelf({ song, bars, done }: { song: SongView; bars: Bars; done: () => void }) {
  const selected = useScope((s) => s.tracks);
  const parts = song.tracks.filter(
    (t) => t.notes > 0 && (selected.size === 0 || selected.has(t.id)),
  );
  const plays = parts[0] ? instrumentText(parts[0], false) : '';
  const [name, setName] = useState(() => proposedName(song, parts[0]?.name ?? '', bars));
  const [folder, setFolder] = useState(() => lastFolder(plays));
  const cut = useCutClip();
  const put = (): void => {
    if (name.trim() === '' || parts.length === 0 || cut.isPending) return;
    cut.mutate(
      { song: song.id, tracks: parts.map((t) => t.id), bars, name: name.trim(), folder },
      {
        onSuccess: (clip) => {
          rememberFolder(plays, clip.folder);
          done();
        },
      },
    );
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (e.key === 'Enter') put();
    else if (e.key === 'Escape') done();
    else return;
    e.preventDefault();
  };
  return (
    <span role="group" aria-label="Put on the shelf" className="flex gap-1" onKeyDown={onKeyDown}>
      <input
        autoFocus
        aria-label="Name of the clip"
        className={`${field} w-[150px]`}
        value={name}
        onFocus={(e) => e.target.select()}
        onChange={(e) => setName(e.target.value)}
      />
      <FolderField folder={folder} set={setFolder} />
      <Button
        className="!px-1.5 !py-0 !text-[12px]"
        disabled={name.trim() === '' || parts.length === 0 || cut.isPending}
        title={parts.length === 0 ? 'No notes are selected' : 'Enter does it'}
        onClick={put}
      >
        Shelf
      </Button>
    </span>
  );
}

/** The section that the bars are, else the part; and which bars. */
function proposedName({ timing, title }: SongView, part: string, { from, to }: Bars): string {
  const section = timing.sections.find((s) => s.from === `${from}.1.0`)?.name;
  return `${section ?? (part || title)} ${from === to ? from : `${from}–${to}`}`;
}

const field = `${input} !py-0 text-[12px]`;

/** A folder that there is, or another. */
function FolderField({ folder, set }: { folder: string; set: (folder: string) => void }) {
  const folders = useFolders().data?.folders ?? [];
  const id = useId();
  return (
    <>
      <input
        aria-label="Folder"
        placeholder="Folder"
        list={id}
        className={`${field} w-[130px]`}
        value={folder}
        onChange={(e) => set(e.target.value)}
      />
      <datalist id={id}>
        {folders.map((f) => (
          <option key={f.path} value={f.path} />
        ))}
      </datalist>
    </>
  );
}
