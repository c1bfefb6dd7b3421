import { Router } from 'express';
import { leaveSchema, type FindingList } from '#contracts/findings.ts';
import type { Finding } from '#core/looking/finding.ts';
import type { KeptLook } from '#core/work/ports.ts';
import { jsonBody } from '../body.ts';
import type { Revision } from '../db/models.ts';
import { KeptLately } from '../kept-lately.ts';
import { need } from '../refusal.ts';
import type { Services } from '../services.ts';

/** How many findings are kept at hand, of all songs. */
const mostRecent = 20_000;

export function findingRoutes({ songs, facts, pool }: Services): Router {
  const router = Router();

  /** Of revisions that were looked over lately; a revision never changes. */
  const recent = new KeptLately<readonly Finding[]>(mostRecent, (findings) => findings.length + 1);

  async function findingsOf(revision: Revision): Promise<readonly Finding[]> {
    const key = `${revision.songId} ${revision.number}`;
    const known = recent.get(key);
    if (known) return known;
    const { manifest } = revision;
    const hashes = manifest.tracks.map((t) => t.blob);
    const [blobs, tracks, kept] = await Promise.all([songs.readBlobs(manifest), facts.known(hashes), facts.read('look', hashes)]);
    const ask = async (looks: ReadonlyMap<string, KeptLook>) => need(await pool.run('look', { manifest, blobs, known: tracks, kept: new Set(kept.keys()), looks }));
    // A thread that does not have all of them at hand is given them: another thread than last time, the first after a start, or a song of very many tracks.
    const first = await ask(new Map());
    const looked = 'lacking' in first ? await ask(kept) : first;
    if ('lacking' in looked) throw new Error('A look was given and is lacking');
    facts.keep(looked.facts);
    recent.set(key, looked.findings);
    return looked.findings;
  }

  router.get('/songs/:id/findings', async (request, response) => {
    const { record, revision } = await songs.find(request.params.id);
    const [findings, left] = await Promise.all([findingsOf(revision), songs.leftAlone(record.id)]);
    response.json({ revision: record.head, findings: findings.map((f) => ({ ...f, leftAlone: left.has(f.key) })) } as FindingList);
  });

  router.post('/songs/:id/findings', async (request, response) => {
    const { key, leftAlone } = jsonBody(request, leaveSchema);
    const record = await songs.record(request.params.id);
    await songs.leave(record.id, key, leftAlone);
    response.status(204).end();
  });

  return router;
}
