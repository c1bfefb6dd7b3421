import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { focusView } from '../components/focus-view.ts';
import { commandOf } from '../keys/pressed.ts';
import { Finder } from './finder.tsx';

/** Everything that can be done or opened from here, by name. Ctrl+K, or ⌘K. */
export function CommandPalette() {
  const [open, setOpen] = useState(false);
  const had = useRef<Element>(null);
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (commandOf(e, 'anywhere') !== 'find') return;
      e.preventDefault();
      setOpen((was) => !was);
    };
    const onAsk = (): void => setOpen(true);
    addEventListener('keydown', onKey);
    addEventListener('open-commands', onAsk);
    return () => {
      removeEventListener('keydown', onKey);
      removeEventListener('open-commands', onAsk);
    };
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-label="Commands"
          aria-describedby={undefined}
          onOpenAutoFocus={() => (had.current = document.activeElement)}
          onCloseAutoFocus={(e) => {
            // What had the focus may be gone by now, as the row of a track that was removed.
            if (had.current?.isConnected && had.current !== document.body) return;
            e.preventDefault();
            focusView();
          }}
          className="fixed top-[14vh] left-1/2 z-50 w-[min(560px,92vw)] -translate-x-1/2 rounded-lg border border-line bg-sheet p-2 shadow-xl"
        >
          <Dialog.Title className="sr-only">Commands</Dialog.Title>
          <Finder close={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
