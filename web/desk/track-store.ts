import type { Events } from '#core/smf/events.ts';
import { KeptLately } from '#core/work/kept-lately.ts';

/** Of events that nobody looked at lately so much is kept at most. */
const mostBytes = 256 * 1048576;
const sizeOf = ({ count, pool }: Events): number => count * 15 + pool.bytes.length + 64;

/**
 * Events of tracks by hash: equal hashes are equal for ever, so each is asked for once, and all that a view
 * needs together.
 */
export class TrackStore {
  private readonly fetchTracks: (hashes: readonly string[]) => Promise<readonly Events[]>;
  private readonly kept = new KeptLately<Events>(mostBytes, sizeOf);
  private readonly underway = new Map<string, Promise<Events>>();

  /** @param fetchTracks gives the events of these hashes, in their order */
  constructor(fetchTracks: (hashes: readonly string[]) => Promise<readonly Events[]>) {
    this.fetchTracks = fetchTracks;
  }

  /** The events of these hashes, in their order; fails where one of them cannot be had. */
  events(hashes: readonly string[]): Promise<Events[]> {
    const missing = [...new Set(hashes)].filter(
      (hash) => !this.kept.get(hash) && !this.underway.has(hash),
    );
    if (missing.length > 0) this.ask(missing);
    return Promise.all(hashes.map((hash) => this.underway.get(hash) ?? this.kept.get(hash)!));
  }

  private ask(missing: readonly string[]): void {
    const all = this.fetchTracks(missing);
    missing.forEach((hash, n) => {
      const one = all.then((events) => {
        this.kept.set(hash, events[n]!);
        return events[n]!;
      });
      const done = (): boolean => this.underway.delete(hash);
      one.then(done, done);
      this.underway.set(hash, one);
    });
  }
}
