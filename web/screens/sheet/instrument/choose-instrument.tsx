import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import type { KeyboardEvent } from 'react';
import type { SongView, TrackView } from '#contracts/songs.ts';
import { count } from '../../../components/text.ts';
import { answers } from '../../../tracks/candidates.ts';
import { instrumentText } from '../../../tracks/glyph.tsx';
import { Groups } from './groups.tsx';
import { Guesses } from './guessed.tsx';
import { How } from './how.tsx';
import { keyOf, useChoosing } from './use-choosing.ts';
import { WhatComes } from './what-comes.tsx';

/** The candidates with what would come of the one that is pointed at. Enter takes it, also out of the search. */
export function ChooseInstrument({
  song,
  ids,
  close,
}: {
  song: SongView;
  ids: readonly string[];
  close: () => void;
}) {
  const { tracks, typed, find, guessed, give, take, ...choosing } = useChoosing(song, ids, close);
  /** Wherever in the dialog the focus is; a list of choices that lies over it keeps its keys. */
  const byNumber = (e: KeyboardEvent<HTMLElement>): void => {
    const guess = guessed.guesses[Number(e.key) - 1];
    if (typed !== '' || !guess || !e.currentTarget.contains(e.target as Node)) return;
    e.preventDefault();
    give(guess.candidate);
  };
  return (
    <>
      <Title tracks={tracks} />
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px] gap-4" onKeyDown={byNumber}>
        <Command
          label="Instruments"
          className="flex min-h-0 flex-col"
          value={choosing.pointed}
          onValueChange={choosing.point}
          filter={(value, search) => {
            const one = find(keyOf(value));
            return one ? answers(one, search) : 0;
          }}
        >
          <Command.Input
            autoFocus
            value={typed}
            onValueChange={choosing.type}
            aria-label="Instrument"
            placeholder="Three letters, a number, a family …"
            className="rounded border border-line bg-paper px-2 py-1 placeholder:text-faint"
          />
          <Command.List
            className={`mt-2 min-h-[320px] overflow-auto ${typed === '' && guessed.guesses.length > 0 ? 'scroll-pt-[150px]' : ''} [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[11.5px] [&_[cmdk-group-heading]]:text-faint`}
          >
            <Command.Empty className="px-2 py-3 text-faint">Nothing of that name.</Command.Empty>
            {typed === '' && <Guesses {...guessed} take={give} />}
            <Groups typed={typed} defined={choosing.defined} find={find} take={take} />
          </Command.List>
        </Command>
        <div className="flex min-h-0 flex-col overflow-auto">
          <How {...choosing.settings} channels={tracks.length === 1 ? tracks[0]!.channels : []} />
          <WhatComes
            preview={choosing.preview}
            pending={choosing.pending}
            take={take}
            close={close}
          />
        </div>
      </div>
    </>
  );
}

const Title = ({ tracks }: { tracks: readonly TrackView[] }) => {
  const only = tracks.length === 1 ? tracks[0]! : undefined;
  return (
    <Dialog.Title className="seam mb-2 pb-1 text-[15px] font-semibold">
      What plays {only ? only.name || 'this part' : count(tracks.length, 'track')}
      <span className="ml-2 text-[12.5px] font-normal text-faint">
        {only && `now ${instrumentText(only, false)}`}
      </span>
    </Dialog.Title>
  );
};
