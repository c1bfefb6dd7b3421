import type { ClipFacts } from './facts.ts';

/** A clip as it is listed. */
export interface Listed extends Pick<
  ClipFacts,
  'bars' | 'meter' | 'bpm' | 'kind' | 'notes' | 'drums'
> {
  readonly name: string;
  readonly folder: string;
  readonly tags: readonly string[];
}

/** What of the shelf is asked for. */
export interface Narrowed {
  readonly search?: string | undefined;
  /** With those that lie within it. */
  readonly folder?: string | undefined;
  readonly kind?: string | undefined;
  readonly meter?: string | undefined;
  readonly slowest?: number | undefined;
  readonly fastest?: number | undefined;
  readonly fewestBars?: number | undefined;
  readonly mostBars?: number | undefined;
  readonly drums?: 'true' | 'false' | undefined;
  readonly sort?:
    'name' | 'folder' | 'kind' | 'bars' | 'meter' | 'bpm' | 'notes' | 'newest' | undefined;
  readonly descending?: 'true' | 'false' | undefined;
}

/** Clips that are not on the shelf, narrowed and sorted as the server does it with those that are. */
export function narrowed<T extends Listed>(clips: readonly T[], asked: Narrowed): T[] {
  const words = (asked.search ?? '').toLowerCase().split(/\s+/).filter(Boolean);
  const found = clips.filter((clip) => {
    const text = `${clip.name} ${clip.folder} ${JSON.stringify(clip.tags)}`.toLowerCase();
    return (
      words.every((w) => text.includes(w)) &&
      (!asked.folder ||
        clip.folder === asked.folder ||
        clip.folder.startsWith(`${asked.folder}/`)) &&
      (!asked.kind || clip.kind === asked.kind) &&
      (!asked.meter || clip.meter === asked.meter) &&
      clip.bpm >= (asked.slowest ?? 0) &&
      clip.bpm <= (asked.fastest ?? Infinity) &&
      clip.bars >= (asked.fewestBars ?? 0) &&
      clip.bars <= (asked.mostBars ?? Infinity) &&
      (!asked.drums || String(clip.drums) === asked.drums)
    );
  });
  const { sort = 'folder' } = asked;
  const of = (clip: T): string | number =>
    sort === 'newest'
      ? 0
      : sort === 'name' || sort === 'folder'
        ? clip[sort].toLowerCase()
        : clip[sort];
  const sign = asked.descending === 'true' ? -1 : 1;
  return found.sort((a, b) => {
    const [x, y] = [of(a), of(b)];
    if (x !== y) return x < y ? -sign : sign;
    return a.name.toLowerCase() < b.name.toLowerCase() ? -1 : 1;
  });
}
