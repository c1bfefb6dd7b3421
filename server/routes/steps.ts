import { Router } from 'express';
import { z } from 'zod';
import { operations } from '#core/operations/index.ts';
import { sourcesOf } from '#core/operations/run.ts';
import { trackView } from '#contracts/track-view.ts';
import { moveSchema, stepRequestSchema, type StepResultView, type StepView } from '#contracts/steps.ts';
import { jsonBody } from '../body.ts';
import { Refusal, need } from '../refusal.ts';
import type { Services } from '../services.ts';
import { wayTo } from '../store/song-store.ts';
import { stepView } from '../views.ts';

export function stepRoutes({ songs, facts, views, sources, pool }: Services): Router {
  const router = Router();

  router.get('/operations', (_request, response) => {
    const listed = operations.map(({ settings, id, version, title, summary, group, scope, examples, byHand = false }) => ({
      id, version, title, summary, group, scope, byHand, settings: z.toJSONSchema(settings, { io: 'input' }), examples,
    }));
    response.json({ operations: listed });
  });

  router.post('/songs/:id/steps', async (request, response) => {
    const { id } = request.params;
    const { revision, preview, ...step } = jsonBody(request, stepRequestSchema);
    const at = await songs.find(id);
    if (at.record.head !== revision) throw new Refusal({ code: 'revision-stale', where: { id, field: 'revision' }, given: revision, head: at.record.head });
    const { manifest } = at.revision;
    const [blobs, known, from] = await Promise.all([songs.readBlobs(manifest), facts.known(manifest.tracks.map((t) => t.blob)), sources.read(sourcesOf(step))]);
    const taken = need(await pool.run('step', { manifest, blobs, known, request: step, sources: from, preview }));
    const { described, report, moves } = taken.step;
    const kept = taken.changed && !preview;
    const head = kept ? await songs.addStep(id, revision, taken) : revision;
    if (kept) views.made(id, head, taken);
    const after = preview ? { after: taken.shown.map(({ summary, blob }) => trackView(summary, blob)) } : {};
    response.json({ revision: head, changed: taken.changed, preview, described, report, ...(moves ? { moves } : {}), ...after } as StepResultView);
  });

  router.get('/songs/:id/steps', async (request, response) => {
    const record = await songs.record(request.params.id);
    const { steps, parents } = await songs.history(record);
    const inForce = new Set(wayTo(parents, record.head));
    const ahead = redoable(parents, record.head);
    const state = (revision: number): StepView['state'] => (inForce.has(revision) ? 'in force' : ahead.has(revision) ? 'undone' : 'set aside');
    response.json({ head: record.head, steps: steps.map((s) => stepView(s, parents.get(s.revision) ?? 0, state(s.revision))) });
  });

  router.post('/songs/:id/undo', async (request, response) => {
    const { id } = request.params;
    await songs.record(id);
    response.json(await songs.undo(id, jsonBody(request, moveSchema, { mayBeEmpty: true }).revision));
  });

  router.post('/songs/:id/redo', async (request, response) => {
    const { id } = request.params;
    await songs.record(id);
    response.json(await songs.redo(id, jsonBody(request, moveSchema, { mayBeEmpty: true }).revision));
  });

  return router;
}

/** Revisions that redo would lead through: from the head always to the newest made from it. */
function redoable(parents: ReadonlyMap<number, number | null>, head: number): Set<number> {
  const newest = new Map<number, number>();
  for (const [number, parent] of parents) if (parent !== null) newest.set(parent, Math.max(number, newest.get(parent) ?? 0));
  const ahead = new Set<number>();
  for (let at = newest.get(head); at !== undefined; at = newest.get(at)) ahead.add(at);
  return ahead;
}
