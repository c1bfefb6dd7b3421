import { Router } from 'express';
import type { Problem, Where } from '#core/problems/problems.ts';
import { say } from '#core/problems/sentences.ts';
import type { ApiError } from '#contracts/errors.ts';
import { songListQuerySchema, type RemovedView, type SongList, type Uploaded } from '#contracts/songs.ts';
import type { Services } from '../services.ts';
import { Refusal, need } from '../refusal.ts';
import { sendFile } from '../send-file.ts';
import { nameFault, uploads, type ReceivedFile } from '../upload.ts';
import { queryOf } from '../body.ts';
import { purgeAt } from '../store/keeping.ts';
import { listedRow, songRow, songView } from '../views.ts';
import type { SongAt } from '../store/song-store.ts';

export function songRoutes({ config, songs, views, pool }: Services): Router {
  const router = Router();
  const receive = uploads(config);

  const row = async (at: SongAt) => songRow(at, (await songs.sizes([at.record.original])).get(at.record.original) ?? 0);

  /** One file into songs; the problems are those that were mended. */
  async function takeFile(file: ReceivedFile): Promise<{ ids: string[]; problems: ApiError[] }> {
    const why = nameFault(file.name);
    if (why) throw new Refusal({ code: 'file-name-invalid', where: { file: file.name.replace(/\p{Cc}/gu, '�').slice(0, 100) }, why });
    const bytes = await file.bytes();
    const intake = need(placed(await pool.run('readFile', { bytes: new Uint8Array(bytes), fileName: file.name }), { file: file.name }));
    const reading = intake.problems.map((p) => say({ ...p, where: { file: file.name, ...p.where } }));
    const ids = await songs.take(intake, { name: file.name, bytes }, reading);
    for (const [n, { first, split }] of intake.songs.entries()) views.made(ids[n]!, split ? 1 : 0, split ? { ...split, facts: [...first.facts, ...split.facts] } : first);
    return { ids, problems: reading };
  }

  router.post('/songs', async (request, response) => {
    const { files, done } = await receive(request, response);
    try {
      if (files.length === 0) throw new Refusal({ code: 'file-missing', where: { field: 'file' } });
      const uploaded: Uploaded = { songs: [], problems: [] };
      let refusal: Refusal | undefined;
      for (const file of files) {
        try {
          const { ids, problems } = await takeFile(file);
          for (const id of ids) uploaded.songs.push(await row(await songs.find(id)));
          uploaded.problems.push(...problems);
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          refusal ??= error;
          uploaded.problems.push(error.body);
        }
      }
      if (refusal && uploaded.songs.length === 0) throw refusal;
      response.status(201).json(uploaded);
    } finally {
      await done();
    }
  });

  router.get('/songs', async (request, response) => {
    const { songs: page, total } = await songs.list(queryOf(request, songListQuerySchema));
    response.json({ songs: page.map((s) => listedRow(s, config.keepRemovedDays)), total, keepRemovedDays: config.keepRemovedDays } satisfies SongList);
  });

  router.get('/songs/:id', async (request, response) => {
    const at = await songs.find(request.params.id);
    const [sizes, { undo, redo }, shown] = await Promise.all([songs.sizes([at.record.original]), songs.neighbours(at.record), views.show(at)]);
    response.json(songView(at, shown, { bytes: sizes.get(at.record.original) ?? 0 }, undo, redo));
  });

  router.get('/songs/:id/original', async (request, response) => {
    const record = await songs.record(request.params.id);
    sendFile(response, record.fileName, await songs.original(record.original));
  });

  router.delete('/songs/:id', async (request, response) => {
    const removedAt = await songs.remove(request.params.id);
    response.json({ removedAt: removedAt.toISOString(), purgeAt: purgeAt(removedAt, config.keepRemovedDays)?.toISOString() ?? null } satisfies RemovedView);
  });

  router.post('/songs/:id/restore', async (request, response) => {
    await songs.restore(request.params.id);
    response.json(await row(await songs.find(request.params.id)));
  });

  return router;
}

/** A refusal that says which file it is about. */
function placed<T>(result: { ok: true; value: T } | { ok: false; problem: Problem }, where: Where): typeof result {
  return result.ok ? result : { ok: false, problem: { ...result.problem, where: { ...where, ...result.problem.where } } };
}
