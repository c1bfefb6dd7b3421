import type { HandoffAsked } from '#core/handoff/settings.ts';
import type { FileMade, HandoffPlan } from '#core/work/hand-off.ts';
import { need } from './refusal.ts';
import type { Services } from './services.ts';
import type { SongAt } from './store/song-store.ts';

/**
 * Files that a thread makes in one go: enough that opening the song and planning costs little beside them,
 * few enough that progress is seen.
 */
const atOnce = (files: number): number => Math.max(16, Math.ceil(files / 64));
/** Goes that are under way at the same time. */
const goesAtOnce = 3;

/** A handoff that is being made. */
export interface Making {
  readonly at: SongAt;
  readonly settings: HandoffAsked;
  readonly prove: boolean;
  /** Told of files in their order; what it does with them is waited for. */
  readonly take: (files: readonly FileMade[], of: number) => Promise<void>;
  /** Stops it where it is; nothing more is made. */
  readonly signal: AbortSignal;
}

/**
 * Makes the files of a handoff in the worker threads, some at a time, and gives them away in their order:
 * so many are held and no more.
 */
export async function handOffFiles(
  { songs, pool }: Pick<Services, 'songs' | 'pool'>,
  { at, settings, prove, take, signal }: Making,
): Promise<HandoffPlan> {
  const { manifest } = at.revision;
  const names = namesOf(at);
  const own = { manifest, blobs: await songs.readBlobs(manifest), settings, names };
  const plan = need(await pool.run('planHandoff', own));
  const whole = plan.files.length === 1 ? await wholeSong({ songs }, at) : undefined;
  const of = plan.files.length;
  const filesAtOnce = atOnce(of);
  const make = async (from: number): Promise<FileMade[]> => {
    signal.throwIfAborted();
    const to = Math.min(of, from + filesAtOnce);
    const given = { ...own, ...(whole ?? { original: new Uint8Array(0) }), prove };
    // A preview is asked for again at every change: its threads finish what they began, and keep what they know.
    const stop = prove ? signal : undefined;
    return need(await pool.run('handoffFiles', { ...given, from, to }, { signal: stop }));
  };
  const going: Promise<FileMade[]>[] = [];
  try {
    for (let from = 0; from < of || going.length > 0; from += filesAtOnce) {
      if (from < of) going.push(handled(make(from)));
      if (going.length < goesAtOnce && from + filesAtOnce < of) continue;
      await take(await going.shift()!, of);
    }
  } catch (error) {
    await Promise.allSettled(going);
    throw error;
  }
  return plan;
}

/** What names of files are made of, beside the song. */
export const namesOf = ({ record }: SongAt): { ending: string; version: string } => ({
  ending: /\.(mid|midi|smf|kar|rmi)$/i.exec(record.fileName)?.[0] ?? '.mid',
  version: String(record.head),
});

/** One that fails before it is waited for fails when it is. */
function handled<T>(work: Promise<T>): Promise<T> {
  work.catch(() => {});
  return work;
}

/** What the whole song is held against: the song as it came in, and its very file. */
async function wholeSong({ songs }: Pick<Services, 'songs'>, { record, revision }: SongAt) {
  const { received, asRead } = await songs.before(record);
  const [blobs, original] = await Promise.all([
    songs.readBlobs(revision.manifest, received, asRead),
    songs.original(record.original),
  ]);
  return { before: { received, asRead }, blobs, original: new Uint8Array(original) };
}
