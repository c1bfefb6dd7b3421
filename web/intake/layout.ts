import type { SongView } from '#contracts/songs.ts';
import type { NamedSource } from '#core/operations/sources.ts';
import { barBehind, type Held, type Wanted } from './bring-model.ts';

/** How several sources come in: each to its place, or one behind the other. */
export interface Layout {
  readonly way: 'each' | 'behind';
  /** Bars between them. */
  readonly gap: number;
  /** A track of the song that all of them are laid onto; undefined for tracks of their own. */
  readonly onto?: string | undefined;
}

/** A source that is read, and what is wanted of it. */
export interface Ready {
  readonly key: string;
  readonly name: NamedSource;
  readonly held: Held;
  readonly wanted: Wanted;
}

/** Sources each to its own place, or one behind the other from the place of the first. */
export function laidOut(
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
