import { useDeferredValue, useRef, useState, type RefObject } from 'react';
import type { SongRow } from '#contracts/songs.ts';
import type { Recipe } from '#core/operations/recipe/run/recipe.ts';
import { useSongs } from '../../api/queries.ts';
import { useRunRecipe, useUndoRun, type Ran } from '../../api/recipes.ts';
import { blanksOf, type NamedSource } from '#core/operations/sources.ts';
import { Button } from '../../components/button.tsx';
import { BlankFields } from '../../fields/source-field.tsx';
import { count } from '../../components/text.ts';
import { RunRow } from './run-row.tsx';
import { sumLine, touched } from './run-words.ts';

interface Props {
  /** As it stands in the editor. */
  readonly recipe: Recipe;
  /** It can be run. */
  readonly whole: boolean;
  readonly unsaved: boolean;
}

/**
 * Runs the recipe on songs: first to see, then to do. What it does stands at each song. Once it ran, no song
 * is chosen any more: a second press runs nothing.
 */
export function RunOnSongs({ recipe, whole, unsaved }: Props) {
  const [search, setSearch] = useState('');
  const found = useSongs(useDeferredValue(search.trim())).data;
  // What was chosen stays so, whatever is searched for next.
  const [chosen, setChosen] = useState<ReadonlyMap<string, SongRow>>(new Map());
  const [sources, setSources] = useState<Record<string, NamedSource>>({});
  const { runs, asked, running, start, undo } = useRuns(recipe, sources);
  const summary = useRef<HTMLParagraphElement>(null);
  const blanks = blanksOf(recipe.steps);
  const ready = whole && chosen.size > 0 && !running && blanks.every((name) => sources[name]);
  const songs = shown(found?.songs ?? [], chosen, runs);
  /** What was pressed may be gone by then; the work goes on at what was done. */
  const takeBack = (done: readonly Ran[]): void => {
    undo(done);
    summary.current?.focus();
  };
  const run = (preview: boolean): void => {
    const now = [...chosen.values()].map((s) => songs.find(({ id }) => id === s.id) ?? s);
    start(now, preview);
    if (preview) return;
    setChosen(new Map());
    summary.current?.focus();
  };
  const list = [...runs.values()];
  const done = list.filter((ran) => !ran.preview && touched(ran));
  return (
    <aside
      aria-label="Run on songs"
      className="flex min-h-0 flex-col border-l border-line bg-sheet px-5 pt-5"
    >
      <Heading />
      {blanks.length > 0 && <Blanks names={blanks} given={sources} set={setSources} />}
      <RunButtons ready={ready} many={chosen.size} run={run} />
      <Report
        summary={summary}
        says={running ? `${list.length} of ${count(asked, 'song')} …` : sumOf(list)}
        none={chosen.size === 0 ? 'Choose songs below.' : 'Not run yet.'}
        unsaved={unsaved}
        done={done.length}
        undo={running ? undefined : () => takeBack(done)}
      />
      <div className="mt-2 flex items-center gap-2">
        <SearchBox search={search} set={setSearch} />
        <AllOrNone songs={songs} chosen={chosen} choose={setChosen} />
      </div>
      {found && <HowMany found={found} none={songs.length === 0} searched={search !== ''} />}
      <SongList
        {...{ songs, chosen, runs }}
        choose={setChosen}
        undo={running ? undefined : (ran) => takeBack([ran])}
      />
    </aside>
  );
}

const sumOf = (list: readonly Ran[]): string | undefined =>
  list.length > 0 ? sumLine(list) : undefined;

const SongList = ({
  songs,
  chosen,
  choose,
  runs,
  undo,
}: {
  songs: readonly SongRow[];
  chosen: Chosen;
  choose: (chosen: Chosen) => void;
  runs: ReadonlyMap<string, Ran>;
  undo: ((ran: Ran) => void) | undefined;
}) => (
  <ul aria-label="Songs" className="mt-1 min-h-0 flex-1 overflow-auto pb-4">
    {songs.map((song) => (
      <RunRow
        key={song.id}
        song={song}
        chosen={chosen.has(song.id)}
        toggle={() => choose(toggled(chosen, song))}
        ran={runs.get(song.id)}
        undo={undo}
      />
    ))}
  </ul>
);

const RunButtons = ({
  ready,
  many,
  run,
}: {
  ready: boolean;
  /** Songs that are chosen. */
  many: number;
  run: (preview: boolean) => void;
}) => (
  <div className="mt-3 flex flex-wrap gap-2">
    <Button disabled={!ready} onClick={() => run(true)}>
      See what it would do
    </Button>
    <Button kind="next" disabled={!ready} onClick={() => run(false)}>
      {many === 0 ? 'Run' : `Run on ${count(many, 'song')}`}
    </Button>
  </div>
);

const Heading = () => (
  <>
    <h2 className="text-[15px] font-semibold">Run it on songs</h2>
    <p className="text-[12.5px] text-faint">
      Each song gets one step, which can be undone. To run it on some tracks only, select them on
      the song’s sheet and choose the recipe in the margin.
    </p>
  </>
);

const Blanks = (fields: Parameters<typeof BlankFields>[0]) => (
  <div className="mt-2">
    <p className="text-[12.5px] text-faint">
      It takes from outside: choose what, for all the songs alike.
    </p>
    <BlankFields {...fields} />
  </div>
);

/** Where not all songs are shown, or none, that is said. */
const HowMany = ({
  found,
  none,
  searched,
}: {
  found: { readonly songs: readonly SongRow[]; readonly total: number };
  none: boolean;
  searched: boolean;
}) => (
  <>
    {found.total > found.songs.length && (
      <p className="mt-1 text-[12.5px] text-faint">
        The {found.songs.length} last touched of {count(found.total, 'song')}; search for others.
      </p>
    )}
    {none && (
      <p className="mt-2 text-faint">
        {searched ? 'No song is called so.' : 'There are no songs yet.'}
      </p>
    )}
  </>
);

/** What a run did or would do, in one line, and the way back from all of it. */
function Report({
  summary,
  says,
  none,
  unsaved,
  done,
  undo,
}: {
  readonly summary: RefObject<HTMLParagraphElement | null>;
  readonly says: string | undefined;
  /** What is said where nothing ran. */
  readonly none: string;
  readonly unsaved: boolean;
  /** How many songs were changed. */
  readonly done: number;
  readonly undo: (() => void) | undefined;
}) {
  return (
    <section
      aria-label="Report"
      className="mt-2 flex min-h-[46px] flex-wrap items-center gap-x-3 border-y border-dashed border-stitch py-1.5"
    >
      <p ref={summary} tabIndex={-1} role="status" className="min-w-0 flex-1 outline-none">
        {says ?? <span className="text-faint">{none}</span>}{' '}
        {unsaved && <span className="text-ochre">It runs as it stands here, unsaved.</span>}
      </p>
      {done > 0 && (
        <Button disabled={!undo} onClick={undo}>
          {done === 1 ? 'Undo it' : `Undo all ${done}`}
        </Button>
      )}
    </section>
  );
}

type Chosen = ReadonlyMap<string, SongRow>;

function AllOrNone({
  songs,
  chosen,
  choose,
}: {
  songs: readonly SongRow[];
  chosen: Chosen;
  choose: (chosen: Chosen) => void;
}) {
  const all = songs.length > 0 && songs.every((s) => chosen.has(s.id));
  return (
    <Button
      kind="quiet"
      className="text-faint"
      disabled={songs.length === 0}
      onClick={() => choose(new Map(all ? [] : songs.map((s) => [s.id, s] as const)))}
    >
      {all ? 'None' : 'All'}
    </Button>
  );
}

const SearchBox = ({ search, set }: { search: string; set: (search: string) => void }) => (
  <input
    type="search"
    aria-label="Search songs"
    placeholder="Search by name or file"
    className="min-w-0 flex-1 rounded border border-line bg-paper px-2 py-1"
    value={search}
    onChange={(e) => set(e.target.value)}
  />
);

function toggled(chosen: Chosen, song: SongRow): Chosen {
  const next = new Map(chosen);
  if (!next.delete(song.id)) next.set(song.id, song);
  return next;
}

/** The songs that were found; what was chosen or run before another search stays in sight, behind them. */
function shown(
  found: readonly SongRow[],
  chosen: ReadonlyMap<string, SongRow>,
  runs: ReadonlyMap<string, Ran>,
): readonly SongRow[] {
  const rows = new Map(found.map((s) => [s.id, s]));
  for (const song of [...chosen.values(), ...[...runs.values()].map((ran) => ran.song)])
    if (!rows.has(song.id)) rows.set(song.id, song);
  return [...rows.values()];
}

/** What became of the songs, as far as it is through; forgotten when the recipe says something else. */
function useRuns(recipe: Recipe, sources: Readonly<Record<string, NamedSource>>) {
  const about = JSON.stringify([recipe.steps, sources]);
  const [told, setTold] = useState({ about, runs: new Map<string, Ran>(), asked: 0 });
  const run = useRunRecipe();
  const undo = useUndoRun();
  const tell = (ran: Ran): void =>
    setTold((now) => ({ ...now, runs: new Map(now.runs).set(ran.song.id, ran) }));
  const done = [...told.runs.values()].some((ran) => !ran.preview);
  return {
    // What was seen of other steps would be stale; what was done was done.
    runs: told.about === about || done ? told.runs : new Map<string, Ran>(),
    asked: told.asked,
    running: run.isPending || undo.isPending,
    start: (songs: readonly SongRow[], preview: boolean): void => {
      setTold({ about, runs: new Map(), asked: songs.length });
      run.mutate({ recipe, sources, songs, preview, tell });
    },
    undo: (runs: readonly Ran[]): void => undo.mutate({ runs, tell }),
  };
}
