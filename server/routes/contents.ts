import { Router } from 'express';
import type { TempoList } from '#contracts/songs.ts';
import { Refusal, need } from '../refusal.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';

/** What a song holds, beyond what it is listed with. */
export function contentRoutes({ songs, pool }: Services): Router {
  const router = Router();

  router.get('/songs/:id/tempos', async (request, response) => {
    const { record, revision } = await songs.find(request.params.id);
    const { manifest } = revision;
    const list = need(await pool.run('tempos', { manifest, blobs: await songs.readBlobs(manifest) }));
    response.json({ revision: record.head, ...list } satisfies TempoList);
  });

  router.get('/blobs/:sha256', async (request, response) => {
    const { sha256 } = request.params;
    const bytes = /^[0-9a-f]{64}$/.test(sha256) ? await songs.blob(sha256) : undefined;
    if (!bytes) throw new Refusal({ code: 'blob-unknown', where: { id: sha256.slice(0, 100) } });
    sendFile(response, `${sha256.slice(0, 12)}.mtrk`, bytes);
  });

  return router;
}
