import { useDeferredValue, useId, useState } from 'react';
import { isBlank, type NamedSource } from '#core/operations/sources.ts';
import { useSong, useSongs } from '../api/queries.ts';
import { Button } from '../components/button.tsx';
import { count } from '../components/text.ts';
import { input } from './field.ts';
import { Pills } from './pills.tsx';

interface Props {
  readonly title: string;
  readonly value: unknown;
  readonly set: (value: unknown) => void;
}

/** So many are listed; the others are found by name. */
const mostListed = 8;

const isSong = (value: unknown): value is Extract<NamedSource, { song: string }> =>
  typeof value === 'object' && value !== null && 'song' in value;

/** A song to take from, found by its name: every file that was brought in is one. */
export function SourceField({ title, value, set }: Props) {
  const id = useId();
  const [search, setSearch] = useState('');
  const found = useSongs(useDeferredValue(search.trim()), mostListed).data;
  if (isSong(value)) {
    return (
      <p className="flex items-baseline gap-2">
        {title} <span className="min-w-0 flex-1 truncate font-medium">{value.called}</span>
        <Button kind="quiet" onClick={() => set(undefined)}>
          Another
        </Button>
      </p>
    );
  }
  return (
    <div>
      <label htmlFor={id}>{title}</label>
      <input
        id={id}
        type="search"
        className={`${input} mt-0.5 w-full`}
        placeholder="A song or file, by its name"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      <ul
        aria-label={`${title}: songs`}
        className="mt-1 max-h-[180px] overflow-auto rounded border border-line"
      >
        {found?.songs.map((song) => (
          <li key={song.id}>
            <button
              type="button"
              className="flex w-full gap-2 px-1.5 py-0.5 text-left hover:bg-amber-soft"
              onClick={() =>
                set({ song: song.id, revision: song.revision, called: song.title.slice(0, 200) })
              }
            >
              <span className="min-w-0 flex-1 truncate">{song.title}</span>
              <span className="num shrink-0 text-faint">{count(song.tracks, 'track')}</span>
            </button>
          </li>
        ))}
        {found?.total === 0 && <li className="px-1.5 text-faint">No song is called so.</li>}
      </ul>
    </div>
  );
}

/** Which tracks of the song are taken: all, or some. */
export function SourceTracksField({ title, source, value, set }: Props & { source: unknown }) {
  return isSong(source) ? (
    <TracksOf title={title} songId={source.song} value={value} set={set} />
  ) : null;
}

function TracksOf({ title, songId, value, set }: Props & { songId: string }) {
  const song = useSong(songId).data;
  // A track that holds the song's own facts and no music has nothing to give.
  const tracks = song?.tracks.filter((_, n) => !(song.mapTrack && n === 0)) ?? [];
  const chosen = Array.isArray(value) ? new Set(value as string[]) : undefined;
  const take = (now: readonly string[]): void => {
    const all = now.includes('') && chosen;
    const ids = tracks.map((t) => t.id).filter((id) => now.includes(id));
    set(all || ids.length === 0 || ids.length === tracks.length ? 'all' : ids);
  };
  return (
    <fieldset>
      <legend>{title}</legend>
      <div className="mt-1 max-h-[200px] overflow-auto">
        <Pills
          label={title}
          chosen={chosen ? [...chosen] : ['']}
          options={[
            ['', 'All'],
            ...tracks.map((t, n) => [t.id, t.name || `track ${n + 1}`] as const),
          ]}
          set={(now) => take(now)}
        />
      </div>
    </fieldset>
  );
}

/** What a recipe asks for when it is run: a name for it. */
export function BlankField({ title, value, set }: Props) {
  return (
    <label className="block">
      {title}: what is asked for when it is run
      <input
        className={`${input} mt-0.5 w-full`}
        placeholder="The part to bring in"
        maxLength={200}
        value={isBlank(value) ? value.blank : ''}
        onChange={(e) => set(e.target.value === '' ? undefined : { blank: e.target.value })}
      />
    </label>
  );
}

/** The blanks of a recipe, each to be filled before it is run. */
export function BlankFields({
  names,
  given,
  set,
}: {
  names: readonly string[];
  given: Readonly<Record<string, NamedSource>>;
  set: (given: Record<string, NamedSource>) => void;
}) {
  return (
    <div className="my-2 space-y-2">
      {names.map((name) => (
        <SourceField
          key={name}
          title={name}
          value={given[name]}
          set={(value) =>
            set(
              Object.fromEntries([
                ...Object.entries(given).filter(([other]) => other !== name),
                ...(isSong(value) ? [[name, value] as const] : []),
              ]),
            )
          }
        />
      ))}
    </div>
  );
}
