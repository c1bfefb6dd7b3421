import { FolderInput } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './button.tsx';
import { useTakeFiles } from './drop-anywhere.tsx';

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
