import { FilePlus2 } from 'lucide-react';
import { Dialog } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import { Button } from '../../components/button.tsx';

/** Forms come when they are first asked for: the list of songs is there sooner. */
const BeginForm = lazy(async () => ({ default: (await import('./begin-form.tsx')).BeginForm }));

/** Begins a song with nothing but its time, or with the places of a list. */
export function BeginSong() {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>
          <FilePlus2 size={15} aria-hidden /> Begin with nothing …
        </Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-paper/70" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-30 w-[440px] -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-sheet px-5 py-4 shadow-lg"
        >
          <Dialog.Title className="seam mb-3 pb-1 text-[15px] font-semibold">
            A song begun with nothing
          </Dialog.Title>
          <Suspense fallback={<p className="text-faint">Opening …</p>}>
            <BeginForm />
          </Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
