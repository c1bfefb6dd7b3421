import { summaryOf, type TrackSummary } from '#core/song/summary.ts';
import type { Fact } from '#core/work/facts.ts';
import type { RevisionView } from '#core/work/overview.ts';
import type { MadeRevision } from '#core/work/step.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { need } from '../refusal.ts';
import type { WorkPool } from '../threads/pool.ts';
import type { FactStore } from './fact-store.ts';
import type { SongAt, SongStore } from './song-store.ts';

/** A revision as it is shown: what is said of it as a whole, and of each of its tracks. */
export interface ShownRevision {
  readonly view: RevisionView;
  readonly tracks: readonly TrackSummary[];
}

const mostViews = 300;

/** What is shown of revisions, put together from facts; what is missing is worked out and kept. */
export class SongViews {
  private readonly songs: SongStore;
  private readonly facts: FactStore;
  private readonly pool: WorkPool;
  private readonly views = new KeptLately<RevisionView>(mostViews, () => 1);

  constructor(songs: SongStore, facts: FactStore, pool: WorkPool) {
    this.songs = songs;
    this.facts = facts;
    this.pool = pool;
  }

  /** Keeps what was said of a revision when it was made. */
  made(songId: string, revision: number, { view, facts }: MadeRevision): void {
    this.views.set(keyOf(songId, revision), view);
    this.facts.keep(facts);
  }

  async show({ record, revision: { number, manifest } }: SongAt): Promise<ShownRevision> {
    const blobs = manifest.tracks.map((t) => t.blob);
    let known = await this.facts.read('track', blobs);
    let view = this.views.get(keyOf(record.id, number));
    if (!view || blobs.some((b) => !known.has(b))) {
      const missing = await this.songs.blobs.read(blobs.filter((b) => !known.has(b)));
      const had = new Map(
        [...known].map(([blob, { value }]) => [
          blob,
          { facts: value.facts, notes: value.content.notes },
        ]),
      );
      const worked = need(await this.pool.run('view', { manifest, blobs: missing, known: had }));
      view = worked.view;
      this.views.set(keyOf(record.id, number), view);
      this.facts.keep(worked.facts);
      known = new Map([
        ...known,
        ...worked.facts.map((f) => [f.blob, f as Fact & { kind: 'track' }] as const),
      ]);
    }
    const activity = await this.activity(blobs, view);
    const tracks = manifest.tracks.map(({ id, blob, parked, instrument }) => {
      const { facts, content } = known.get(blob)!.value;
      return summaryOf(
        { id, facts, ...(parked ? { parked } : {}), ...(instrument ? { instrument } : {}) },
        manifest.encoding,
        content,
        activity.get(blob)!,
      );
    });
    return { view, tracks };
  }

  /** How many notes of each track sound in each cell of the revision's bars. */
  private async activity(
    blobs: readonly string[],
    { grid, timing }: RevisionView,
  ): Promise<Map<string, readonly number[]>> {
    const found = await this.facts.read('activity', blobs);
    const stale = blobs.filter((b) => found.get(b)?.depends !== grid);
    if (stale.length > 0) {
      const worked = need(
        await this.pool.run('activity', {
          blobs: await this.songs.blobs.read(stale),
          starts: timing.cellTicks,
        }),
      );
      this.facts.keep(worked);
      for (const fact of worked) found.set(fact.blob, fact as Fact & { kind: 'activity' });
    }
    return new Map([...found].map(([blob, { value }]) => [blob, value]));
  }
}

const keyOf = (songId: string, revision: number): string => `${songId} ${revision}`;
