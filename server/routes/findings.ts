import type { Finding } from '#core/looking/finding.ts';
import type { KeptLook } from '#core/work/ports.ts';
import type { Handlers } from '../answering.ts';
import type { Revision } from '../db/models.ts';
import { KeptLately } from '#core/work/kept-lately.ts';
import { need } from '../refusal.ts';
import type { Services } from '../services.ts';

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

  async function findingsOf(revision: Revision): Promise<readonly Finding[]> {
    const key = `${revision.songId} ${revision.number}`;
    const known = recent.get(key);
    if (known) return known;
    const { manifest } = revision;
    const hashes = manifest.tracks.map((t) => t.blob);
    const [blobs, tracks, kept] = await Promise.all([
      songs.readBlobs(manifest),
      facts.known(hashes),
      facts.read('look', hashes),
    ]);
    const ask = async (looks: ReadonlyMap<string, KeptLook>) =>
      need(
        await pool.run('look', {
          manifest,
          blobs,
          known: tracks,
          kept: new Set(kept.keys()),
          looks,
        }),
      );
    // A thread that does not have all of them at hand is given them: another thread than last time, the first after a start, or a song of very many tracks.
    const first = await ask(new Map());
    const looked = 'lacking' in first ? await ask(kept) : first;
    if ('lacking' in looked) throw new Error('A look was given and is lacking');
    facts.keep(looked.facts);
    recent.set(key, looked.findings);
    return looked.findings;
  }

  return {
    async listFindings({ params }) {
      const { record, revision } = await songs.find(params.id);
      const [findings, left] = await Promise.all([
        findingsOf(revision),
        songs.leftAlone(record.id),
      ]);
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
