import { ArrowRight } from 'lucide-react';
import { useEffect, useEffectEvent, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { SongView } from '#contracts/songs.ts';
import { urlOf } from '#contracts/addresses.ts';
import { problemFrom, problemOf } from '../../api/client.ts';
import { usePreview } from '../../api/preview.ts';
import { showProblem, useStep } from '../../api/queries.ts';
import { Button } from '../../components/button.tsx';
import { ChooseMore } from '../../components/choose-files.tsx';
import { useTakeFiles } from '../../components/drop-anywhere.tsx';
import { isTyping } from '../../components/is-typing.ts';
import { ProblemNote } from '../../components/problem-note.tsx';
import { bpmText, count, duration } from '../../components/text.ts';
import { keepHabits, useHabits } from '../../state/habits.ts';
import { useScope } from '../../state/scope.ts';
import { Account } from './account.tsx';
import {
  alike,
  barBehind,
  givingTracks,
  proposed,
  stepOf,
  whatToKnow,
  type Held,
  type Wanted,
} from '../../intake/bring-model.ts';
import { BringTracks } from './bring-tracks.tsx';
import { Kinds } from './kinds.tsx';
import { Place, Several, type Layout } from './place.tsx';
import { sourcesIn, useHeld } from '../../intake/sources.ts';

/** What files and other songs hold, beside the bars of this one, before anything of them is taken. */
export function BringScreen({ song }: { song: SongView }) {
  const [query, setQuery] = useSearchParams();
  const sources = useMemo(() => sourcesIn(query), [query]);
  const held = useHeld(sources);
  const habits = useHabits((s) => s.habits);
  const bars = useScope((s) => s.bars);
  const [chosen, setChosen] = useState<Readonly<Record<string, Wanted>>>({});
  const [shown, show] = useState(0);
  const [layout, setLayout] = useState<Layout>({ way: 'each', gap: 0 });
  const navigate = useNavigate();
  const step = useStep(song.id, song.revision);
  const ready = sources.flatMap((source, n) => {
    const own = held[n]?.held;
    if (!own) return [];
    const wanted =
      chosen[source.key] ??
      proposed(song, own, { from: bars?.from, habits, tracks: source.tracks });
    return [{ ...source, held: own, wanted }];
  });
  const laid = laidOut(song, ready, layout);
  const at = Math.min(shown, sources.length - 1);
  const source = sources[at];
  const current = laid.find(({ key }) => key === source?.key);
  const set = (wanted: Wanted): void => {
    if (source) setChosen({ ...chosen, [source.key]: wanted });
  };
  const waiting = held.some((h) => !h.held && !h.error && h.problems.length === 0);
  const asked = waiting
    ? undefined
    : stepOf(laid.map(({ name, ...rest }) => ({ source: name, ...rest })));
  const preview = usePreview(song, asked);
  const may =
    asked !== undefined &&
    preview.data?.changed === true &&
    !preview.isError &&
    !preview.isPlaceholderData;
  const take = (): void => {
    if (!may || step.isPending) return;
    if (current) keepHabits(current.wanted);
    step.mutate(asked, { onSuccess: () => void navigate(`/songs/${song.id}`) });
  };
  useEnter(take);
  const leave = (): void => setQuery(new URLSearchParams(), { replace: true });
  return (
    <main
      aria-label="Bring in"
      className="grid min-h-0 grid-cols-[minmax(0,1fr)_330px] overflow-hidden"
    >
      <div className="min-h-0 overflow-auto px-5 py-4">
        {sources.length > 1 && (
          <Sources
            names={sources.map(({ name }) => ('blank' in name ? '' : (name.called ?? 'a file')))}
            at={at}
            show={show}
          />
        )}
        {source && (
          <Heading
            called={source.name.called ?? 'A file'}
            held={held[at]?.held}
            error={held[at]?.error}
            problems={held[at]?.problems ?? []}
          />
        )}
        {sources.length === 0 && <p>This address names nothing to take from.</p>}
        {current && (
          <>
            <Known words={whatToKnow(song, current.held)} />
            <BringTracks song={song} source={current} set={set} />
          </>
        )}
      </div>
      <aside
        aria-label="How it comes in"
        className="min-h-0 overflow-auto border-l border-line bg-sheet px-3 pt-4"
      >
        {current && (
          <>
            {sources.length > 1 && (
              <Several
                layout={layout}
                set={setLayout}
                forAll={() =>
                  setChosen(
                    Object.fromEntries(
                      ready.map((one) => [one.key, alike(one.wanted, current.wanted, one.held)]),
                    ),
                  )
                }
              />
            )}
            <Place
              song={song}
              wanted={current.wanted}
              fixed={layout.way === 'behind' && at > 0}
              set={set}
            />
            <Kinds held={current.held} song={song} wanted={current.wanted} set={set} />
          </>
        )}
        <Account preview={preview} asked={asked} />
        <div className="sticky bottom-0 mt-3 flex flex-wrap gap-2 border-t border-line bg-sheet py-3">
          <Button kind="next" disabled={!may || step.isPending} onClick={take} title="Enter">
            Bring in <ArrowRight size={14} aria-hidden />
          </Button>
          <ChooseMore song={song.id} />
          {source && 'original' in source.name && (
            <AsSong sha256={source.name.original} called={source.name.called ?? 'file.mid'} />
          )}
          <Button onClick={leave}>Not now</Button>
        </div>
      </aside>
    </main>
  );
}

/** The file as a song of its own, beside the one that is open. */
function AsSong({ sha256, called }: { sha256: string; called: string }) {
  const take = useTakeFiles();
  const press = async (): Promise<void> => {
    const response = await fetch(urlOf('getFile', { sha256 })).catch(() => undefined);
    if (!response) return showProblem(problemFrom(0, ''));
    if (response.ok) await take([new File([await response.blob()], called)]);
    else showProblem(problemFrom(response.status, await response.text()));
  };
  return <Button onClick={() => void press()}>As a song of its own</Button>;
}

interface Ready {
  readonly key: string;
  readonly name: ReturnType<typeof sourcesIn>[number]['name'];
  readonly held: Held;
  readonly wanted: Wanted;
}

/** Sources each to its own place, or one behind the other from the place of the first. */
function laidOut(
  song: SongView,
  ready: readonly Ready[],
  { way, gap, onto }: Layout,
): readonly Ready[] {
  if (way === 'each') return ready;
  let bar: number | undefined;
  return ready.map((one): Ready => {
    const wanted: Wanted = {
      ...one.wanted,
      ...(bar === undefined ? {} : { at: { bar } }),
      ...(onto ? { onto: Object.fromEntries(one.wanted.tracks.map((id) => [id, onto])) } : {}),
    };
    bar = barBehind(song, one.held, wanted, gap);
    return { ...one, wanted };
  });
}

/** Enter takes what is proposed, wherever the focus is that has no use of its own for it. */
function useEnter(take: () => void): void {
  const onKey = useEffectEvent((e: KeyboardEvent): void => {
    const used =
      e.target instanceof Element &&
      e.target.closest('button, a, [role="checkbox"], [role="combobox"], [role="dialog"]');
    if (
      e.key !== 'Enter' ||
      e.defaultPrevented ||
      (isTyping(e.target) && !(e.target instanceof HTMLInputElement)) ||
      used
    )
      return;
    e.preventDefault();
    take();
  });
  useEffect(() => {
    const listener = (e: KeyboardEvent): void => onKey(e);
    addEventListener('keydown', listener);
    return () => removeEventListener('keydown', listener);
  }, []);
}

function Sources({
  names,
  at,
  show,
}: {
  names: readonly string[];
  at: number;
  show: (n: number) => void;
}) {
  return (
    <nav aria-label="Files" className="mb-3 flex flex-wrap gap-1">
      {names.map((name, n) => (
        <button
          key={n}
          type="button"
          aria-current={n === at ? 'true' : undefined}
          className="max-w-[200px] truncate rounded border border-line px-2 py-0.5 text-[12.5px] aria-[current=true]:border-amber aria-[current=true]:bg-amber-soft"
          onClick={() => show(n)}
        >
          {name}
        </button>
      ))}
    </nav>
  );
}

function Heading({
  called,
  held,
  error,
  problems,
}: {
  called: string;
  held: Held | undefined;
  error: unknown;
  problems: SongView['reading'];
}) {
  return (
    <div>
      <h2 className="text-[19px] font-semibold break-words">{called}</h2>
      {error !== undefined && <ProblemNote problem={problemOf(error)} harm />}
      {!held && error === undefined && <p className="text-faint">Reading it …</p>}
      {held && <p className="text-faint">{holds(held)}</p>}
      {problems.length > 0 && (
        <details className="mt-1">
          <summary className="text-ochre">{count(problems.length, 'fault')} mended</summary>
          <ul className="mt-1 space-y-1.5 text-[12.5px]">
            {problems.slice(0, 20).map((problem, n) => (
              <li key={n}>
                <ProblemNote problem={problem} />
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

function holds(held: Held): string {
  const { timing } = held;
  const bpms = timing.tempos.map((t) => t.bpm);
  return [
    count(givingTracks(held).length, 'track'),
    count(held.notes, 'note'),
    `${count(timing.bars, 'bar')} in ${duration(timing.seconds)}`,
    bpms.length === 0
      ? 'no tempo stated'
      : bpms.length === 1
        ? `${bpmText(bpms[0]!)} BPM`
        : `${count(timing.tempoCount, 'tempo')}`,
    timing.meters
      .slice(0, 3)
      .map((m) => `${m.numerator}/${m.denominator}`)
      .join(', ') || '4/4',
    held.divisionText,
    timing.startTimecode && `timecode ${timing.startTimecode}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

function Known({ words }: { words: readonly string[] }) {
  if (words.length === 0) return null;
  return (
    <ul aria-label="What to know" className="mt-2 text-[12.5px] text-ochre">
      {words.map((say) => (
        <li key={say}>{say}</li>
      ))}
    </ul>
  );
}
