import { FolderInput, FolderSearch, Upload, X } from 'lucide-react';
import { useEffect, useEffectEvent, useRef, useState, type ComponentPropsWithRef } from 'react';
import { urlOf } from '#contracts/addresses.ts';
import { useAddClips, useFolders, useMoveFolder } from '../../api/shelf.ts';
import { isWorthTaking } from '../../components/dropped-files.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { NameField } from '../../components/name-field.tsx';
import { goThrough, lookThrough } from './look-through.ts';
import { useShelf } from '../../state/shelf.ts';
import { say } from '../../messages/messages.ts';

/** The folders, each with how many clips lie in it and within; and what puts files on the shelf. */
export function Folders() {
  const folders = useFolders().data?.folders ?? [];
  const { asked, here } = useShelf();
  const chosen = asked.folder;
  const all = withParents(folders);
  const total = folders.reduce((sum, f) => sum + f.clips, 0);
  return (
    <nav aria-label="Folders" className="flex min-h-0 flex-col border-r border-line py-2">
      <ul className="min-h-0 flex-1 overflow-y-auto px-1.5">
        {here && <LookedThrough name={here.name} clips={here.clips.length} />}
        <Folder path={undefined} says="All clips" clips={total} depth={0} />
        {all.map(({ path, clips }) => (
          <Folder
            key={path}
            path={path}
            says={path.split('/').at(-1)!}
            clips={clips}
            depth={path.split('/').length}
          />
        ))}
      </ul>
      <div className="flex flex-col gap-1.5 border-t border-line px-2.5 pt-2">
        {chosen !== undefined && <MoveFolder folder={chosen} />}
        <AddFiles folder={chosen ?? ''} />
        <a
          className="px-1 text-[12px] text-faint underline decoration-line underline-offset-4"
          href={urlOf('getShelfFile', {}, { folder: chosen })}
          download
        >
          {chosen === undefined ? 'All as a zip' : 'This folder as a zip'}
        </a>
      </div>
    </nav>
  );
}

/** A folder of the machine: looked through, and left again. */
function LookedThrough({ name, clips }: { name: string; clips: number }) {
  const looking = useShelf((s) => s.looking);
  return (
    <li className="mb-1 flex items-center border-b border-line pb-1">
      <button
        type="button"
        aria-current={looking ? 'true' : undefined}
        className="flex min-w-0 flex-1 items-center justify-between gap-2 rounded px-1.5 py-1 text-left aria-[current=true]:bg-amber-soft"
        title={`${name}, looked through: nothing of it is kept but what you put into a song`}
        onClick={goThrough}
      >
        <span className="min-w-0 truncate italic">{name}</span>
        <span className="num text-[12px] text-faint">{clips.toLocaleString('en')}</span>
      </button>
      <Button
        kind="quiet"
        className="!px-1 !py-0.5"
        aria-label={`Leave ${name}`}
        onClick={() => useShelf.setState({ here: undefined, looking: false })}
      >
        <X size={13} aria-hidden />
      </Button>
    </li>
  );
}

function Folder({
  path,
  says,
  clips,
  depth,
}: {
  path: string | undefined;
  says: string;
  clips: number;
  depth: number;
}) {
  const { asked, ask, looking } = useShelf();
  return (
    <li>
      <button
        type="button"
        aria-current={!looking && asked.folder === path ? 'true' : undefined}
        className="flex w-full items-center justify-between gap-2 rounded px-1.5 py-1 text-left aria-[current=true]:bg-amber-soft"
        style={{ paddingLeft: 6 + depth * 12 }}
        onClick={() => {
          useShelf.setState({ looking: false });
          ask({ folder: path });
        }}
      >
        <span className="min-w-0 truncate" title={path}>
          {says}
        </span>
        <span className="num text-[12px] text-faint">{clips.toLocaleString('en')}</span>
      </button>
    </li>
  );
}

/** Files, or a folder with all within it, into the folder that is chosen. */
function AddFiles({ folder }: { folder: string }) {
  const [sent, setSent] = useState(0);
  const add = useAddClips(setSent);
  const files = useRef<HTMLInputElement>(null);
  const whole = useRef<HTMLInputElement>(null);
  const through = useRef<HTMLInputElement>(null);
  const put = (list: readonly File[]): void => {
    const chosen = list.filter((f) => isWorthTaking(f.name));
    if (chosen.length > 0) add.mutate({ files: chosen, folder });
    else if (list.length > 0) say('No MIDI files and no zip archives among them');
  };
  const dropped = useEffectEvent(put);
  // What is dropped while the shelf is seen is put on it.
  useEffect(() => {
    useShelf.setState({ taking: (files) => dropped(files) });
    return () => useShelf.setState({ taking: undefined });
  }, []);
  return (
    <>
      <div className="flex gap-1.5">
        <Button
          className="!text-[12px]"
          disabled={add.isPending}
          onClick={() => files.current?.click()}
        >
          <Upload size={13} aria-hidden /> {add.isPending ? `${Math.round(sent * 100)} %` : 'Files'}
        </Button>
        <Button
          className="!text-[12px]"
          disabled={add.isPending}
          onClick={() => whole.current?.click()}
        >
          A folder
        </Button>
      </div>
      <Button
        className="!text-[12px]"
        title="Look through a folder and hear it: nothing of it is kept but what you put into a song"
        onClick={() => through.current?.click()}
      >
        <FolderSearch size={13} aria-hidden /> Look through one
      </Button>
      <Chooser
        ref={through}
        aria-label="A folder to look through"
        {...aFolder}
        chosen={(list) => void lookThrough(list)}
      />
      <Chooser
        ref={files}
        multiple
        aria-label="Files for the shelf"
        accept=".mid,.midi,.smf,.kar,.rmi,.zip"
        chosen={put}
      />
      <Chooser ref={whole} aria-label="A folder for the shelf" {...aFolder} chosen={put} />
    </>
  );
}

const aFolder = { webkitdirectory: '' };

interface ChooserProps extends ComponentPropsWithRef<'input'> {
  readonly chosen: (files: readonly File[]) => void;
}

/** What the system's chooser is opened by; the same may be chosen again. */
const Chooser = ({ chosen, ...input }: ChooserProps) => (
  <input
    type="file"
    hidden
    {...input}
    onChange={(e) => {
      chosen([...(e.target.files ?? [])]);
      e.target.value = '';
    }}
  />
);

/** Folders with those that they lie in, though nothing lies in these themselves; each with all that lies within it. */
function withParents(
  folders: readonly { path: string; clips: number }[],
): { path: string; clips: number }[] {
  const found = new Map<string, number>();
  for (const { path, clips } of folders) {
    const parts = path.split('/');
    for (let depth = 1; depth <= parts.length; depth++) {
      const above = parts.slice(0, depth).join('/');
      found.set(above, (found.get(above) ?? 0) + clips);
    }
  }
  return [...found]
    .map(([path, clips]) => ({ path, clips }))
    .sort((a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }));
}

/** Gives a folder another name, or another place. */
function MoveFolder({ folder }: { folder: string }) {
  const ask = useShelf((s) => s.ask);
  const [naming, setNaming] = useState(false);
  const move = useMoveFolder();
  const rename = (to: string | undefined): void => {
    setNaming(false);
    if (!to || to === folder) return;
    move.mutate(
      { from: folder, to },
      {
        onSuccess: (after) => {
          ask({ folder: to });
          const left = after.folders.find((f) => f.path === folder);
          if (left)
            say(`${count(left.clips, 'clip')} of ${folder} lie there already`, {
              description: 'They stay where they were: nothing is lost.',
            });
        },
      },
    );
  };
  return naming ? (
    <NameField label="Folder" initial={folder} className="text-[12.5px]" done={rename} />
  ) : (
    <Button className="!text-[12px]" onClick={() => setNaming(true)}>
      <FolderInput size={13} aria-hidden /> Rename or move
    </Button>
  );
}
