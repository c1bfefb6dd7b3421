import type { Config } from './config.ts';
import type { BankStore } from './store/bank-store.ts';
import type { InstrumentStore } from './store/instrument-store.ts';
import type { LinkStore } from './store/link-store.ts';
import type { PreferenceStore } from './store/preference-store.ts';
import type { ReceiverStore } from './store/receiver-store.ts';
import type { RecipeStore } from './store/recipe-store.ts';
import type { HandoffStore } from './store/handoff-store.ts';
import type { SourceStore } from './store/source-store.ts';
import type { SongStore } from './store/song-store.ts';
import type { FactStore } from './store/fact-store.ts';
import type { SongViews } from './store/song-views.ts';
import type { ShelfStore } from './store/shelf-store.ts';
import type { DatabaseWatch } from './db/watch.ts';
import type { WorkPool } from './threads/pool.ts';

/** What the routes work with. */
export interface Services {
  readonly config: Config;
  readonly songs: SongStore;
  readonly sources: SourceStore;
  readonly handoffs: HandoffStore;
  readonly preferences: PreferenceStore;
  readonly receivers: ReceiverStore;
  readonly links: LinkStore;
  readonly recipes: RecipeStore;
  readonly instruments: InstrumentStore;
  readonly banks: BankStore;
  readonly shelf: ShelfStore;
  readonly facts: FactStore;
  readonly views: SongViews;
  readonly pool: WorkPool;
  readonly watch: DatabaseWatch;
}
