import { useDeferredValue, useId, useRef, useState } from 'react';
import { isBlank, type NamedSource } from '#core/operations/sources.ts';
import { useContents, useSendOriginal } from '../api/originals.ts';
import { useFoundClips } from '../api/shelf.ts';
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

/** What was chosen, a song or a file. */
const isNamed = (value: unknown): value is NamedSource =>
  isSong(value) || (typeof value === 'object' && value !== null && 'original' in value);

/** What to take from: a song, found by its name, or a file that is none of the songs here. */
export function SourceField({ title, value, set }: Props) {
  const id = useId();
  const [search, setSearch] = useState('');
  const words = useDeferredValue(search.trim());
  const found = useSongs(words, mostListed).data;
  const clips = useFoundClips(words, mostListed).data?.clips ?? [];
  if (isNamed(value)) {
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
        placeholder="A song, or a clip of the shelf, by its name"
        value={search}
        onChange={(e) => setSearch(e.target.value)}
      />
      <ul
        aria-label={`${title}: songs`}
        className="mt-1 max-h-[180px] overflow-auto rounded border border-line"
      >
        {found?.songs.map(({ id: song, revision, title: name, tracks }) => (
          <Found
            key={song}
            name={name}
            aside={count(tracks, 'track')}
            take={() => set({ song, revision, called: name.slice(0, 200) })}
          />
        ))}
        {clips.map(({ id: clip, sha256, part, name }) => (
          <Found
            key={clip}
            name={name}
            aside="on the shelf"
            take={() => set({ original: sha256, part, called: name.slice(0, 200) })}
          />
        ))}
        {found?.total === 0 && clips.length === 0 && (
          <li className="px-1.5 text-faint">No song or clip is called so.</li>
        )}
      </ul>
      <ChooseFile set={set} />
    </div>
  );
}

/** A file of one's own to take from: it is kept for the step, and no song is made of it. */
function ChooseFile({ set }: Pick<Props, 'set'>) {
  const chooser = useRef<HTMLInputElement>(null);
  const send = useSendOriginal();
  const take = (file: File | undefined): void => {
    if (!file) return;
    const called = file.name.slice(0, 200);
    send.mutate(file, { onSuccess: ({ sha256 }) => set({ original: sha256, part: 1, called }) });
  };
  return (
    <>
      <Button className="mt-1" disabled={send.isPending} onClick={() => chooser.current?.click()}>
        {send.isPending ? 'Reading it …' : 'From a file …'}
      </Button>
      <input
        ref={chooser}
        type="file"
        hidden
        aria-label="File to take from"
        data-testid="source-file"
        onChange={(e) => {
          take(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
    </>
  );
}

/** Which tracks of the song or file are taken: all, or some. */
export function SourceTracksField({ source, ...rest }: Props & { source: unknown }) {
  if (!isNamed(source)) return null;
  return isSong(source) ? (
    <TracksOfSong id={source.song} {...rest} />
  ) : (
    <TracksOfFile sha256={source.original} part={source.part} {...rest} />
  );
}

const TracksOfSong = ({ id, ...rest }: Props & { id: string }) => (
  <Tracks held={useSong(id).data} {...rest} />
);

const TracksOfFile = ({ sha256, part, ...rest }: Props & { sha256: string; part: number }) => (
  <Tracks held={useContents(sha256).data?.parts[part - 1]} {...rest} />
);

interface Held {
  readonly tracks: readonly { readonly id: string; readonly name: string }[];
  readonly mapTrack: boolean;
}

function Tracks({ title, held: song, value, set }: Props & { held: Held | undefined }) {
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
                ...(isNamed(value) ? [[name, value] as const] : []),
              ]),
            )
          }
        />
      ))}
    </div>
  );
}

const Found = ({ name, aside, take }: { name: string; aside: string; take: () => void }) => (
  <li>
    <button
      type="button"
      className="flex w-full gap-2 px-1.5 py-0.5 text-left hover:bg-amber-soft"
      onClick={take}
    >
      <span className="min-w-0 flex-1 truncate">{name}</span>
      <span className="num shrink-0 text-faint">{aside}</span>
    </button>
  </li>
);
