import { useQueries } from '@tanstack/react-query';
import type { OriginalView } from '#contracts/songs.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import { contentsQuery } from '../api/originals.ts';
import { songQuery } from '../api/queries.ts';
import type { Held } from './bring-model.ts';

/** Something to take from, as the address of the intake names it. */
export interface AddressedSource {
  /** Its own also where two files are the same to the byte. */
  readonly key: string;
  readonly name: NamedSource;
  /** Ids of tracks that were copied; undefined for all. */
  readonly tracks: readonly string[] | undefined;
}

/** `file:<sha256>:<part>` or `song:<id>:<revision>`, with what each is called, and which tracks, beside it. */
export function sourcesIn(query: URLSearchParams): AddressedSource[] {
  const names = query.getAll('name');
  const tracks = query.getAll('tracks');
  return query.getAll('from').flatMap((key, n): AddressedSource[] => {
    const [kind, id = '', number = ''] = key.split(':');
    const called = names[n]?.slice(0, 200) || undefined;
    const own = { key: `${n} ${key}`, tracks: tracks[n] ? tracks[n].split(',') : undefined };
    const asCalled = called === undefined ? {} : { called };
    if (kind === 'file' && /^[0-9a-f]{64}$/.test(id))
      return [{ ...own, name: { original: id, part: Number(number) || 1, ...asCalled } }];
    if (kind === 'song' && /^\d+$/.test(number))
      return [{ ...own, name: { song: id, revision: Number(number), ...asCalled } }];
    return [];
  });
}

/** What sources hold, as far as it is known yet; what could not be had is told by its error. */
export function useHeld(sources: readonly AddressedSource[]) {
  const answers = useQueries({
    queries: sources.map(({ name }) =>
      'original' in name ? contentsQuery(name.original) : songQuery(name.song),
    ),
  });
  return answers.map(
    (answer, n): { held?: Held; problems: OriginalView['problems']; error?: unknown } => {
      const { name } = sources[n]!;
      if (answer.error) return { problems: [], error: answer.error };
      if (!answer.data) return { problems: [] };
      if ('original' in name) {
        const file = answer.data as OriginalView;
        const held = file.parts.find((p) => p.part === name.part);
        return held ? { held, problems: file.problems } : { problems: file.problems };
      }
      return { held: answer.data as Held, problems: [] };
    },
  );
}
