import { useDeferredValue, useState } from 'react';
import { Link } from 'react-router';
import type { SongRow } from '#contracts/songs.ts';
import type { Recipe } from '#core/operations/recipe/run/recipe.ts';
import { useSongs } from '../../api/queries.ts';
import { useRunRecipe, type Ran } from '../../api/recipes.ts';
import { blanksOf, type NamedSource } from '#core/operations/sources.ts';
import { Button } from '../../components/button.tsx';
import { BlankFields } from '../../fields/source-field.tsx';
import { count, counts } from '../../components/text.ts';
import { Check } from '../../fields/check.tsx';

/** Runs the recipe on songs: first to see, then to do, with one report for all. */
export function RunOnSongs({ recipe }: { recipe: Recipe }) {
  const [search, setSearch] = useState('');
  const found = useSongs(useDeferredValue(search.trim())).data;
  const songs = found?.songs ?? [];
  // What was chosen stays so, whatever is searched for next.
  const [chosen, setChosen] = useState<ReadonlyMap<string, SongRow>>(new Map());
  const run = useRunRecipe();
  const blanks = blanksOf(recipe.steps);
  const [sources, setSources] = useState<Record<string, NamedSource>>({});
  const ready = chosen.size > 0 && !run.isPending && blanks.every((name) => sources[name]);
  const list = [...chosen.values()];
  const allShown = songs.length > 0 && songs.every((s) => chosen.has(s.id));
  const toggle = (song: SongRow): void => {
    const next = new Map(chosen);
    if (!next.delete(song.id)) next.set(song.id, song);
    setChosen(next);
  };
  return (
    <section aria-label="Run on songs" className="mt-6 border-t border-line pt-3">
      <div className="flex items-center gap-2">
        <h2 className="text-[15px] font-semibold">Run it on songs</h2>
        <Button
          kind="quiet"
          className="text-faint"
          onClick={() =>
            setChosen(
              allShown ? new Map() : new Map([...chosen, ...songs.map((s) => [s.id, s] as const)]),
            )
          }
        >
          {allShown ? 'None' : 'All'}
        </Button>
        <div className="ml-auto flex gap-2">
          <Button
            disabled={!ready}
            onClick={() => run.mutate({ recipe, sources, songs: list, preview: true })}
          >
            See what it would do
          </Button>
          <Button
            kind="next"
            disabled={!ready}
            onClick={() => run.mutate({ recipe, sources, songs: list, preview: false })}
          >
            {list.length < 2 ? 'Run' : `Run on ${count(list.length, 'song')}`}
          </Button>
        </div>
      </div>
      <p className="text-[12.5px] text-faint">
        Each song gets one step, which can be undone there. To run it on some tracks only, select
        them on the song’s sheet and choose the recipe in the margin.
      </p>
      {blanks.length > 0 && (
        <div className="mt-2 max-w-[420px]">
          <p className="text-[12.5px] text-faint">
            It takes from outside: choose what, for all the songs alike.
          </p>
          <BlankFields names={blanks} given={sources} set={setSources} />
        </div>
      )}
      <div className="mt-2 flex items-center gap-3">
        <input
          type="search"
          aria-label="Search songs"
          placeholder="Search by name or file"
          className="w-64 rounded border border-line bg-sheet px-2 py-1"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        {found && found.total > songs.length && (
          <p className="text-[12.5px] text-faint">
            The {songs.length} last touched of {count(found.total, 'song')}; search for others.
          </p>
        )}
      </div>
      {found?.total === 0 && (
        <p className="mt-2 text-faint">
          {search ? 'No song is called so.' : 'There are no songs yet.'}
        </p>
      )}
      <ul className="mt-2 grid grid-cols-2 gap-x-4">
        {songs.map((s) => (
          <li key={s.id}>
            <div className="py-0.5">
              <Check checked={chosen.has(s.id)} set={() => toggle(s)}>
                <span className="truncate">{s.title}</span>{' '}
                <span className="num shrink-0 text-faint">{count(s.tracks, 'track')}</span>
              </Check>
            </div>
          </li>
        ))}
      </ul>
      {run.data && <RunReport ran={run.data.ran} preview={run.data.preview} />}
    </section>
  );
}

function RunReport({ ran, preview }: { ran: readonly Ran[]; preview: boolean }) {
  return (
    <section aria-label="Report" aria-live="polite" className="mt-4">
      <h3 className="seam mb-1 pb-1 font-semibold">
        {preview ? 'What it would do' : 'What it did'}
      </h3>
      <ul className="space-y-1.5">
        {ran.map(({ song, result, problem }) => (
          <li
            key={song.id}
            className={`border-l-3 pl-2.5 ${problem ? 'border-rust' : result?.changed ? 'border-moss' : 'border-line'}`}
          >
            <Link
              className="block truncate font-medium underline decoration-line underline-offset-4"
              title={song.title}
              to={`/songs/${song.id}`}
            >
              {song.title}
            </Link>
            {problem ? (
              <p>
                {problem.message}: {problem.expected}; found {problem.found}. {problem.remedy}
              </p>
            ) : (
              <p className="text-faint">
                {result!.changed
                  ? `${counts(totals(result!.report.changes))} in ${count(new Set(result!.report.changes.map((c) => c.track)).size, 'track')}`
                  : 'Nothing to do.'}
                {result!.report.skipped.length > 0 &&
                  ` ${result!.report.skipped.map((s) => s.why).join(' ')}`}
              </p>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function totals(changes: readonly { counts: Record<string, number> }[]): Record<string, number> {
  const total: Record<string, number> = {};
  for (const c of changes)
    for (const [kind, n] of Object.entries(c.counts)) total[kind] = (total[kind] ?? 0) + n;
  return total;
}
