import { useQueries } from '@tanstack/react-query';
import type { OriginalView, SongView } from '#contracts/songs.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import { contentsQuery } from '../api/originals.ts';
import { RequestFailed } from '../api/client.ts';
import { songQuery } from '../api/queries.ts';
import type { Held } from './bring-model.ts';

/** Something to take from, as the address of the intake names it. */
export interface AddressedSource {
  /** Its own also where two files are the same to the byte. */
  readonly key: string;
  readonly name: NamedSource;
  /** Ids of tracks that were copied; undefined for all. */
  readonly tracks: readonly string[] | undefined;
  /** Bars that were copied; undefined for all. */
  readonly bars: { readonly from: number; readonly to: number } | undefined;
}

/**
 * `file:<sha256>:<part>` or `song:<id>:<revision>`, with what each is called, and which tracks and bars
 * (`5-8`), beside it.
 */
export function sourcesIn(query: URLSearchParams): AddressedSource[] {
  const names = query.getAll('name');
  const tracks = query.getAll('tracks');
  const bars = query.getAll('bars');
  return query.getAll('from').flatMap((key, n): AddressedSource[] => {
    const [kind, id = '', number = ''] = key.split(':');
    const called = names[n]?.slice(0, 200) || undefined;
    const own = {
      key: `${n} ${key}`,
      tracks: tracks[n] ? tracks[n].split(',') : undefined,
      bars: barsIn(bars[n]),
    };
    const asCalled = called === undefined ? {} : { called };
    if (kind === 'file' && /^[0-9a-f]{64}$/.test(id))
      return [{ ...own, name: { original: id, part: Number(number) || 1, ...asCalled } }];
    if (kind === 'song' && /^\d+$/.test(number))
      return [{ ...own, name: { song: id, revision: Number(number), ...asCalled } }];
    return [];
  });
}

function barsIn(words = ''): AddressedSource['bars'] {
  const [from, to] = (/^([1-9]\d{0,6})-([1-9]\d{0,6})$/.exec(words) ?? []).slice(1).map(Number);
  return from !== undefined && to !== undefined && from <= to ? { from, to } : undefined;
}

/** What sources hold, as far as it is known yet; what could not be had is told by its error. */
export interface HeldSource {
  readonly held?: Held;
  readonly problems: OriginalView['problems'];
  readonly error?: unknown;
  /** What is shown is not quite what is taken: in words. */
  readonly said?: string;
}

export function useHeld(sources: readonly AddressedSource[]): HeldSource[] {
  const answers = useQueries({
    queries: sources.map(({ name }) =>
      'original' in name ? contentsQuery(name.original) : songQuery(name.song),
    ),
  });
  return answers.map((answer, n): HeldSource => {
    const { name } = sources[n]!;
    if (answer.error) return { problems: [], error: answer.error };
    if (!answer.data) return { problems: [] };
    if (!('original' in name)) {
      const song = answer.data as SongView;
      return {
        held: song,
        problems: [],
        ...(song.revision === name.revision ? {} : { said: asItWas }),
      };
    }
    const { parts, problems } = answer.data as OriginalView;
    const held = parts.find((p) => p.part === name.part);
    return held ? { held, problems } : { problems, error: noSuchPart(name.part, parts.length) };
  });
}

const asItWas =
  'That song has changed since: it comes in as it was when it was copied, and is shown as it is now.';

const noSuchPart = (part: number, parts: number): RequestFailed =>
  new RequestFailed(404, {
    code: 'part-unknown',
    message: 'The file has no such part',
    where: {},
    expected: `a part from 1 to ${parts}`,
    found: String(part),
    remedy: 'Bring the file in again.',
  });
