import { FolderInput } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button.tsx';
import { useShowFiles, useTakeFiles } from './drop-anywhere.tsx';
import { isWorthTaking } from './dropped-files.ts';

/** Opens the system's file chooser. Any file may be chosen: what is no MIDI file is named as what it is. */
export function ChooseFiles({ kind = 'next' }: { kind?: 'next' | 'plain' }) {
  const input = useRef<HTMLInputElement>(null);
  const take = useTakeFiles();
  return (
    <>
      <Button kind={kind} onClick={() => input.current?.click()}>
        <FolderInput size={15} aria-hidden /> Choose files
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Files to bring in"
        data-testid="files"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void take(files);
        }}
      />
    </>
  );
}

/** Chooses more files to take from, or a folder of them, for the song that is open. */
export function ChooseMore({ song }: { song: string }) {
  const show = useShowFiles();
  return (
    <>
      <FilesOf says="Other files …" testId="more-files" take={(files) => show(song, files)} />
      <FilesOf says="A folder …" folder take={(files) => show(song, files)} />
    </>
  );
}

/**
 * A press that opens the system's chooser of files, or of a folder: of that the MIDI files and archives,
 * however deep they lie.
 */
function FilesOf({
  says,
  folder = false,
  testId,
  take,
}: {
  says: string;
  folder?: boolean;
  testId?: string;
  take: (files: readonly File[]) => Promise<void>;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button onClick={() => input.current?.click()}>{says}</Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        {...(folder ? { webkitdirectory: '' } : {})}
        aria-label={says}
        data-testid={testId}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void take(folder ? files.filter((f) => isWorthTaking(f.name)) : files);
        }}
      />
    </>
  );
}
