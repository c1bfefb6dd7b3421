import { FolderInput } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button.tsx';
import { useShowFiles, useTakeFiles } from './drop-anywhere.tsx';

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

/** Chooses more files to take from, for the song that is open. */
export function ChooseMore({ song }: { song: string }) {
  const input = useRef<HTMLInputElement>(null);
  const show = useShowFiles();
  return (
    <>
      <Button onClick={() => input.current?.click()}>Other files …</Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        aria-label="Files to take from"
        data-testid="more-files"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = '';
          void show(song, files);
        }}
      />
    </>
  );
}
