import { Router } from 'express';
import { slipText } from '#core/handoff/slip.ts';
import { handoffRequestSchema } from '#contracts/handoffs.ts';
import { jsonBody } from '../body.ts';
import { Refusal, need } from '../refusal.ts';
import { fileName } from '../file-name.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';
import { handoffView } from '../views.ts';

export function handoffRoutes({ songs, handoffs, pool }: Services): Router {
  const router = Router();

  router.post('/songs/:id/handoffs', async (request, response) => {
    const { id } = request.params;
    const { revision, ...settings } = jsonBody(request, handoffRequestSchema);
    const at = await songs.find(id);
    const { head } = at.record;
    if (revision !== undefined && revision !== head) throw new Refusal({ code: 'revision-stale', where: { id, field: 'revision' }, given: revision, head });
    const { manifest } = at.revision;
    const { received, asRead } = await songs.before(at.record);
    const [blobs, original] = await Promise.all([songs.readBlobs(manifest, received, asRead), songs.original(at.record.original)]);
    const name = fileName(manifest.title, settings.format === 'as-received' ? at.record.fileName : '.mid');
    const made = need(await pool.run('handoff', { manifest, received, asRead, blobs, settings, original: new Uint8Array(original), name }));
    response.status(201).json(handoffView(await handoffs.add({ songId: id, revision: head, settings }, made)));
  });

  router.get('/songs/:id/handoffs', async (request, response) => {
    const { id } = await songs.record(request.params.id);
    response.json({ handoffs: (await handoffs.list(id)).map(handoffView) });
  });

  router.get('/handoffs/:id/files/:name', async (request, response) => {
    const { id, name } = request.params;
    sendFile(response, name, await handoffs.file(id, name));
  });

  router.get('/handoffs/:id/slip', async (request, response) => {
    const { slip } = await handoffs.find(request.params.id);
    response.attachment(`${slip.file} slip.txt`);
    response.type('text/plain').send(slipText(slip));
  });

  return router;
}
