import { Router } from 'express';
import { leaveSchema, type FindingList } from '#contracts/findings.ts';
import { jsonBody } from '../body.ts';
import { need } from '../refusal.ts';
import type { Services } from '../services.ts';

export function findingRoutes({ songs, pool }: Services): Router {
  const router = Router();

  router.get('/songs/:id/findings', async (request, response) => {
    const { record, revision } = await songs.find(request.params.id);
    const { manifest } = revision;
    const [blobs, left] = await Promise.all([songs.readBlobs(manifest), songs.leftAlone(record.id)]);
    const findings = need(await pool.run('look', { manifest, blobs }));
    response.json({ revision: record.head, findings: findings.map((f) => ({ ...f, leftAlone: left.has(f.key) })) } as FindingList);
  });

  router.post('/songs/:id/findings', async (request, response) => {
    const { key, leftAlone } = jsonBody(request, leaveSchema);
    const { record } = await songs.find(request.params.id);
    await songs.leave(record.id, key, leftAlone);
    response.status(204).end();
  });

  return router;
}
