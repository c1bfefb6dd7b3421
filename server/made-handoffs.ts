import type { HandoffSettings } from '#core/handoff/settings.ts';
import type { Limits } from '#core/handoff/receiver/receiver.ts';
import type { Slip } from '#core/handoff/slip.ts';
import type { FileMade } from '#core/work/hand-off.ts';
import type { HandoffFile, HandoffPreview, HandoffView } from '#contracts/handoffs.ts';
import { handOffFiles, namesOf } from './handing-off.ts';
import { incomingFolder } from './incoming.ts';
import type { Services } from './services.ts';
import { Spool } from './spool.ts';
import { listed, type MadeHandoff } from './store/handoff-store.ts';
import { need } from './refusal.ts';
import type { SongAt } from './store/song-store.ts';
import { handoffView } from './views.ts';

/** What is handed off, and for whom. */
export interface For {
  readonly settings: HandoffSettings;
  /** What is kept of who it is for. */
  readonly receiver: Pick<MadeHandoff, 'receiver'>;
  /** What they take; everything, where nobody is named. */
  readonly limits?: Limits;
}

/** What will not arrive, or arrives changed. */
async function forecastAt(
  { songs, pool }: Services,
  at: SongAt,
  settings: HandoffSettings,
  limits: Limits | undefined,
): Promise<NonNullable<HandoffPreview['forecast']>> {
  const { manifest } = at.revision;
  const own = { manifest, blobs: await songs.readBlobs(manifest), settings, names: namesOf(at) };
  return need(await pool.run('forecast', { ...own, ...(limits ? { limits } : {}) })) as never;
}

/** Who waits for a handoff: may go away, and is told how far it is. */
interface Waiting {
  readonly signal: AbortSignal;
  readonly progress: (made: number, of: number) => void;
}

/** A handoff that was made and is kept; nothing of it is where whoever waits goes away. */
export async function made(
  services: Services,
  at: SongAt,
  { settings, receiver }: For,
  { signal, progress }: Waiting,
): Promise<HandoffView> {
  const spool = new Spool(incomingFolder(services.config));
  const slips: Slip[] = [];
  const sources = await services.sources.sourcesSaidOf(at.record.id);
  const take = async (files: readonly FileMade[], of: number): Promise<void> => {
    for (const { sha256, bytes, slip } of files) {
      await spool.add(sha256, bytes);
      slips.push(sources.length > 0 ? { ...slip, sources } : slip);
    }
    progress(slips.length, of);
  };
  try {
    const { notes } = await handOffFiles(services, { at, settings, prove: true, take, signal });
    signal.throwIfAborted();
    const { id, head } = at.record;
    const kept = {
      songId: id,
      revision: head,
      settings: { ...settings },
      slips,
      notes,
      ...receiver,
    };
    return handoffView(await services.handoffs.add(kept, spool));
  } finally {
    await spool.done();
  }
}

/** Which files there would be, and what would be left out or changed. */
export async function previewed(
  services: Services,
  at: SongAt,
  { settings, limits }: For,
  { signal, forecast }: { signal: AbortSignal; forecast: boolean },
): Promise<HandoffPreview> {
  const files: Omit<HandoffFile, 'sha256'>[] = [];
  const take = async (some: readonly FileMade[]): Promise<void> => {
    for (const { sha256, ...file } of some.map((m) => listed(m.slip))) files.push(file);
  };
  const { notes } = await handOffFiles(services, { at, settings, prove: false, take, signal });
  // Of a single file all is said with it.
  const said = { files, notes: files.length === 1 ? [] : notes };
  const lost = forecast ? await forecastAt(services, at, settings, limits) : undefined;
  return { preview: true, revision: at.record.head, ...said, ...(lost ? { forecast: lost } : {}) };
}

/**
 * Files that are made and not kept, for an address that is fetched: what they are called, and their bytes
 * one after another.
 */
export interface Loose {
  readonly names: readonly string[];
  readonly bytes: AsyncGenerator<{ readonly bytes: Uint8Array }>;
  done(): Promise<void>;
}

export async function loose(
  services: Services,
  at: SongAt,
  settings: HandoffSettings,
  signal: AbortSignal,
): Promise<Loose> {
  const spool = new Spool(incomingFolder(services.config));
  const names: string[] = [];
  const take = async (some: readonly FileMade[]): Promise<void> => {
    for (const { bytes, slip } of some) {
      await spool.add(slip.file, bytes);
      names.push(slip.file);
    }
  };
  try {
    await handOffFiles(services, { at, settings, prove: true, take, signal });
  } catch (error) {
    await spool.done();
    throw error;
  }
  return { names, bytes: spool.all(), done: () => spool.done() };
}
