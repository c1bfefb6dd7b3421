import { Router } from 'express';
import { z } from 'zod';
import { operations } from '#core/operations/index.ts';
import type { Report } from '#core/operations/operation.ts';
import type { TrackView } from '#contracts/songs.ts';
import { trackView } from '#contracts/track-view.ts';
import { moveSchema, stepRequestSchema, type StepResultView, type StepView } from '#contracts/steps.ts';
import { jsonBody } from '../body.ts';
import { Refusal, need } from '../refusal.ts';
import type { Services } from '../services.ts';
import { wayTo } from '../store/song-store.ts';
import type { Manifest } from '../store/manifest.ts';
import { stepView } from '../views.ts';

export function stepRoutes({ songs, pool }: Services): Router {
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
    const taken = need(await pool.run('step', { manifest, blobs: await songs.readBlobs(manifest), request: step }));
    const { described, report } = taken.step;
    const kept = taken.changed && !preview;
    const head = kept ? await songs.addStep(id, revision, taken.manifest, taken.step, taken.blobs) : revision;
    const after = preview ? { after: changedTracks(taken.manifest, report) } : {};
    response.json({ revision: head, changed: taken.changed, preview, described, report, ...after } as StepResultView);
  });

  router.get('/songs/:id/steps', async (request, response) => {
    const { record } = await songs.find(request.params.id);
    const { steps, parents } = await songs.history(record);
    const inForce = new Set(wayTo(parents, record.head));
    const ahead = redoable(parents, record.head);
    const state = (revision: number): StepView['state'] => (inForce.has(revision) ? 'in force' : ahead.has(revision) ? 'undone' : 'set aside');
    response.json({ head: record.head, steps: steps.map((s) => stepView(s, parents.get(s.revision) ?? 0, state(s.revision))) });
  });

  router.post('/songs/:id/undo', async (request, response) => {
    const { id } = request.params;
    await songs.find(id);
    response.json(await songs.undo(id, jsonBody(request, moveSchema, { mayBeEmpty: true }).revision));
  });

  router.post('/songs/:id/redo', async (request, response) => {
    const { id } = request.params;
    await songs.find(id);
    response.json(await songs.redo(id, jsonBody(request, moveSchema, { mayBeEmpty: true }).revision));
  });

  return router;
}

/** The tracks of a revision that a report names, as many as a picture needs. */
function changedTracks({ summary, tracks }: Manifest, { changes }: Report): TrackView[] {
  const changed = new Set(changes.map((c) => c.track));
  return summary.tracks.flatMap((t, i) => (changed.has(t.id) ? [trackView(t, tracks[i]!.blob)] : [])).slice(0, 20);
}

/** Revisions that redo would lead through: from the head always to the newest made from it. */
function redoable(parents: ReadonlyMap<number, number | null>, head: number): Set<number> {
  const newest = new Map<number, number>();
  for (const [number, parent] of parents) if (parent !== null) newest.set(parent, Math.max(number, newest.get(parent) ?? 0));
  const ahead = new Set<number>();
  for (let at = newest.get(head); at !== undefined; at = newest.get(at)) ahead.add(at);
  return ahead;
}
