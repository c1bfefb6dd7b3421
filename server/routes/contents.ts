import { existsSync } from 'node:fs';
import { Router } from 'express';
import type { TempoList } from '#contracts/songs.ts';
import type { Manifest } from '#core/work/revision.ts';
import { Refusal, need } from '../refusal.ts';
import { fileName } from '../file-name.ts';
import { sendFile } from '../send-file.ts';
import type { Services } from '../services.ts';

/** What a song holds, beyond what it is listed with. */
export function contentRoutes({ config, songs, facts, pool }: Services): Router {
  const router = Router();

  /** A revision as the threads work on it. */
  const stored = async (manifest: Manifest) => {
    const [blobs, known] = await Promise.all([songs.readBlobs(manifest), facts.known(manifest.tracks.map((t) => t.blob))]);
    return { manifest, blobs, known };
  };

  router.get('/sounds', (_request, response) => {
    if (!existsSync(config.soundsFile)) throw new Refusal({ code: 'sounds-missing', where: { file: config.soundsFile } });
    response.sendFile(config.soundsFile, { headers: { 'Content-Type': 'application/octet-stream', 'Cache-Control': 'private, max-age=86400' } });
  });

  router.get('/songs/:id/tempos', async (request, response) => {
    const { record, revision } = await songs.find(request.params.id);
    const { manifest } = revision;
    const list = need(await pool.run('tempos', await stored(manifest)));
    response.json({ revision: record.head, ...list } satisfies TempoList);
  });

  router.get('/songs/:id/map.mid', async (request, response) => {
    const { manifest } = (await songs.find(request.params.id)).revision;
    sendFile(response, fileName(`${manifest.title} map`, '.mid'), need(await pool.run('mapFile', await stored(manifest))), 'now');
  });

  router.get('/blobs/:sha256', async (request, response) => {
    const { sha256 } = request.params;
    const bytes = /^[0-9a-f]{64}$/.test(sha256) ? await songs.blob(sha256) : undefined;
    if (!bytes) throw new Refusal({ code: 'blob-unknown', where: { id: sha256.slice(0, 100) } });
    sendFile(response, `${sha256.slice(0, 12)}.mtrk`, bytes);
  });

  return router;
}
