import type { Finding } from '#core/looking/finding.ts';
import type { KeptLook } from '#core/work/ports.ts';
import type { Handlers } from '../answering.ts';
import type { Revision } from '../db/models.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { goneAway } from '../gone-away.ts';
import { need } from '../refusal.ts';
import type { Services } from '../services.ts';
import { askLean } from '../threads/lean.ts';
import { SharedWork } from '../threads/shared-work.ts';

/** How many findings are kept at hand, of all songs. */
const mostRecent = 20_000;

/** What the look-over notices in songs, and what of it is left alone. */
export function findingHandlers({
  songs,
  facts,
  pool,
}: Services): Pick<Handlers, 'listFindings' | 'leaveFinding'> {
  /** Of revisions that were looked over lately; a revision never changes. */
  const recent = new KeptLately<readonly Finding[]>(mostRecent, (findings) => findings.length + 1);

  const looking = new SharedWork<readonly Finding[]>();

  async function findingsOf(revision: Revision, gone: AbortSignal): Promise<readonly Finding[]> {
    const key = `${revision.songId} ${revision.number}`;
    return recent.get(key) ?? looking.ask(key, (stop) => lookOver(key, revision, stop), gone);
  }

  async function lookOver(
    key: string,
    { manifest }: Revision,
    signal: AbortSignal,
  ): Promise<readonly Finding[]> {
    const hashes = manifest.tracks.map((t) => t.blob);
    const kept = await facts.read('look', hashes);
    const fresh = hashes.filter((hash) => !kept.has(hash));
    const looked = await askLean(fresh, hashes, async (wanted) => {
      const [blobs, known] = await Promise.all([songs.blobs.read(wanted), facts.known(wanted)]);
      const looks = new Map<string, KeptLook>(
        wanted.flatMap((hash) => ((look) => (look ? [[hash, look]] : []))(kept.get(hash))),
      );
      const names = new Set(kept.keys());
      return need(
        await pool.run('look', { manifest, blobs, known, kept: names, looks }, { signal }),
      );
    });
    facts.keep(looked.facts);
    recent.set(key, looked.findings);
    return looked.findings;
  }

  return {
    async listFindings({ params, response }) {
      const gone = goneAway(response);
      const { record, revision } = await songs.find(params.id);
      const [findings, left] = await Promise.all([
        findingsOf(revision, gone),
        songs.leftAlone(record.id),
      ]);
      // Where it cannot be noted the list does not tell it; what was found is told all the same.
      await songs
        .noteLooked(record, findings.filter((f) => !left.has(f.key)).length)
        .catch(() => undefined);
      return {
        revision: record.head,
        findings: findings.map((f) => ({ ...f, leftAlone: left.has(f.key) })),
      };
    },

    async leaveFinding({ params, body: { key, leftAlone } }) {
      const record = await songs.record(params.id);
      await songs.leave(record.id, key, leftAlone);
    },
  };
}
