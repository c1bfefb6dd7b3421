import { useMemo, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import { ticksToSeconds } from '#core/timing/tempo-map.ts';
import { useInstruments } from '../../../api/instruments.ts';
import { useMaps } from '../../../api/maps.ts';
import { usePreview } from '../../../api/preview.ts';
import { useStep, type StepAsked } from '../../../api/queries.ts';
import { useAudition } from '../../../sound/use-audition.ts';
import { rememberSound } from '../../../state/recent-sounds.ts';
import { useScope } from '../../../state/scope.ts';
import { useDebounced } from '../../../step/use-debounced.ts';
import {
  bestOf,
  candidateOf,
  candidates,
  definedOnes,
  type Candidate,
} from '../../../tracks/candidates.ts';
import { useGuessed } from './guessed.tsx';
import { usual, type HowGiven } from './how.tsx';

/** How long an arrow rests on a candidate before it is heard. */
const restMs = 140;
/** Seconds before the first note of a part from which on it is heard. */
const before = 0.2;

/** Which candidate is pointed at, how it would be given, what would come of that, and how it sounds. */
export function useChoosing(song: SongView, ids: readonly string[], close: () => void) {
  const tracks = song.tracks.filter((t) => ids.includes(t.id));
  const [typed, type] = useState('');
  const [at, setAt] = useState(() => playedBy(tracks[0]));
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
  const point = (to: string): void => {
    if (to !== pointed) setMoved(true);
    setAt(to);
  };
  return {
    tracks,
    typed,
    type,
    pointed,
    point,
    settings: { how, set: setHow, hearing, setHearing, bars, within, setWithin },
    find,
    defined,
    guessed,
    preview,
    pending: step.isPending || !asked,
    give,
    take,
  };
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
export const keyOf = (value: string): string => value.replace(/^(lately|guess) /, '');

/** The candidate that plays a part now. */
function playedBy(track: SongView['tracks'][number] | undefined): string {
  if (track?.channel === 10) return `kit ${(track.programs[0]?.program ?? 1) - 1}`;
  return `program ${(track?.programs[0]?.program ?? 1) - 1}`;
}
