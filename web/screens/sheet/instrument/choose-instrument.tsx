import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useMemo, useState, type KeyboardEvent } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { usePreview } from '../../../api/preview.ts';
import { useInstruments } from '../../../api/instruments.ts';
import { useStep, type StepAsked } from '../../../api/queries.ts';
import { count } from '../../../components/text.ts';
import { rememberSound } from '../../../state/recent-sounds.ts';
import { useScope } from '../../../state/scope.ts';
import { useDebounced } from '../../../step/use-debounced.ts';
import { instrumentText } from '../../../tracks/glyph.tsx';
import {
  answers,
  bestOf,
  candidateOf,
  candidates,
  definedOnes,
  type Candidate,
} from '../../../tracks/candidates.ts';
import { Groups } from './groups.tsx';
import { Guesses, useGuessed } from './guessed.tsx';
import { How, usual, type HowGiven } from './how.tsx';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useMaps } from '../../../api/maps.ts';
import { useAudition } from '../../../sound/use-audition.ts';
import { WhatComes } from './what-comes.tsx';

/** How long an arrow rests on a candidate before it is heard. */
const restMs = 140;
/** Seconds before the first note of a part from which on it is heard. */
const before = 0.2;

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
  const tracks = song.tracks.filter((t) => ids.includes(t.id));
  const [typed, type] = useState('');
  const [at, point] = useState(() => playedBy(tracks[0]));
  const [how, setHow] = useState<HowGiven>(usual);
  const [hearing, setHearing] = useState(true);
  const bars = useScope((s) => s.bars);
  const [within, setWithin] = useState(true);
  const meant = useMemo(
    () => ({ tracks: [...ids], ...(bars && within ? { bars } : {}) }),
    [ids, bars, within],
  );
  const step = useStep(song.id, song.revision);
  const { data: instruments } = useInstruments();
  const defined = useMemo(() => definedOnes(instruments ?? []), [instruments]);
  const find = (key: string): Candidate | undefined =>
    candidateOf(key) ?? defined.find((c) => c.key === key);
  // What was typed before they were there may mean one of them, and the list chooses none by itself.
  const best = at === '' && typed !== '' ? bestOf([...defined, ...candidates], typed) : undefined;
  const pointed = best?.key ?? at;
  const candidate = find(keyOf(pointed));
  const asked = useMemo(
    () => (candidate ? stepOf(candidate, how, meant) : undefined),
    [candidate, how, meant],
  );
  const rested = useDebounced(asked, restMs);
  const preview = usePreview(song, rested);
  const [moved, setMoved] = useState(false);
  const first = Math.min(...tracks.map((t) => t.firstNoteTick ?? Infinity));
  const { tempo } = useMaps(song);
  useAudition(song, hearing && moved && rested ? [rested] : undefined, () =>
    Number.isFinite(first) ? Math.max(0, ticksToSeconds(tempo, first) - before) : 0,
  );
  const guessed = useGuessed(song, ids);
  const give = (one: Candidate | undefined): void => {
    if (!one || step.isPending) return;
    rememberSound(one.key);
    step.mutate(stepOf(one, how, meant), { onSuccess: close });
  };
  const take = (): void => give(candidate);
  /** Wherever in the dialog the focus is; a list of choices that lies over it keeps its keys. */
  const byNumber = (e: KeyboardEvent<HTMLElement>): void => {
    const guess = guessed.guesses[Number(e.key) - 1];
    if (typed !== '' || !guess || !e.currentTarget.contains(e.target as Node)) return;
    e.preventDefault();
    give(guess.candidate);
  };
  return (
    <>
      <Dialog.Title className="seam mb-2 pb-1 text-[15px] font-semibold">
        What plays{' '}
        {tracks.length === 1 ? tracks[0]!.name || 'this part' : count(tracks.length, 'track')}
        <span className="ml-2 text-[12.5px] font-normal text-faint">
          {tracks.length === 1 && `now ${instrumentText(tracks[0]!, false)}`}
        </span>
      </Dialog.Title>
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px] gap-4" onKeyDown={byNumber}>
        <Command
          label="Instruments"
          className="flex min-h-0 flex-col"
          value={pointed}
          onValueChange={(to) => {
            if (to !== pointed) setMoved(true);
            point(to);
          }}
          filter={(value, search) => {
            const one = find(keyOf(value));
            return one ? answers(one, search) : 0;
          }}
        >
          <Command.Input
            autoFocus
            value={typed}
            onValueChange={type}
            aria-label="Instrument"
            placeholder="Three letters, a number, a family …"
            className="rounded border border-line bg-paper px-2 py-1 placeholder:text-faint"
          />
          <Command.List
            className={`mt-2 min-h-[320px] overflow-auto ${typed === '' && guessed.guesses.length > 0 ? 'scroll-pt-[150px]' : ''} [&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[11.5px] [&_[cmdk-group-heading]]:text-faint`}
          >
            <Command.Empty className="px-2 py-3 text-faint">Nothing of that name.</Command.Empty>
            {typed === '' && <Guesses {...guessed} take={give} />}
            <Groups typed={typed} defined={defined} find={find} take={take} />
          </Command.List>
        </Command>
        <div className="flex min-h-0 flex-col overflow-auto">
          <How
            how={how}
            set={setHow}
            hearing={hearing}
            setHearing={setHearing}
            channels={tracks.length === 1 ? tracks[0]!.channels : []}
            bars={bars}
            within={within}
            setWithin={setWithin}
          />
          <WhatComes
            preview={preview}
            pending={step.isPending || !asked}
            take={take}
            close={close}
          />
        </div>
      </div>
    </>
  );
}

const stepOf = (
  { program, drums, definition }: Candidate,
  how: HowGiven,
  scope: NonNullable<StepAsked['scope']>,
): StepAsked => ({
  operation: 'tracks.instrument',
  settings: { ...(definition ? { definition } : { program, drums }), ...how },
  scope,
});

/** A candidate may stand among the guesses and those of lately, too. */
const keyOf = (value: string): string => value.replace(/^(lately|guess) /, '');

/** The candidate that plays a part now. */
function playedBy(track: SongView['tracks'][number] | undefined): string {
  if (track?.channel === 10) return `kit ${(track.programs[0]?.program ?? 1) - 1}`;
  return `program ${(track?.programs[0]?.program ?? 1) - 1}`;
}
