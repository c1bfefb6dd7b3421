import { Dialog } from 'radix-ui';
import { lazy, Suspense, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';

/** The list of instruments comes when it is first asked for. */
const Choose = lazy(async () => ({
  default: (await import('./choose-instrument.tsx')).ChooseInstrument,
}));

const All = lazy(async () => ({ default: (await import('./guess-all.tsx')).GuessAll }));

/** What plays some tracks, chosen by typing, by arrows and by ear; or what may play all of them. */
export function InstrumentDialog({
  song,
  tracks,
  close,
}: {
  song: SongView;
  /** Ids, none for all; undefined while nothing is chosen. */
  tracks: readonly string[] | undefined;
  close: () => void;
}) {
  // What was chosen for is known until the dialog is gone.
  const [last, setLast] = useState(tracks);
  if (tracks && tracks !== last) setLast(tracks);
  return (
    <Dialog.Root open={tracks !== undefined} onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-paper/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[9vh] left-1/2 z-30 flex max-h-[80vh] w-[780px] -translate-x-1/2 flex-col rounded-lg border border-line bg-sheet px-4 py-3 shadow-lg"
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            document.querySelector<HTMLElement>(`[data-track="${last?.[0]}"]`)?.focus();
          }}
        >
          <Suspense fallback={<Dialog.Title>Opening …</Dialog.Title>}>
            {tracks &&
              (tracks.length > 0 ? (
                <Choose song={song} ids={tracks} close={close} />
              ) : (
                <All song={song} close={close} />
              ))}
          </Suspense>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
