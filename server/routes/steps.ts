import { z } from 'zod';
import { operations } from '#core/operations/index.ts';
import { sourcesOf } from '#core/operations/run.ts';
import { blobsBeside } from '#core/work/revision.ts';
import { trackView } from '#contracts/track-view.ts';
import type { OperationView, StepView } from '#contracts/steps.ts';
import type { Handlers } from '../answering.ts';
import { Refusal, need } from '../refusal.ts';
import type { Services } from '../services.ts';
import { wayTo } from '../store/moving-head.ts';
import { askLean } from '../threads/lean.ts';
import { stepView } from '../views.ts';

/** What can be done; it changes with the program only. */
const listed = operations.map(
  ({
    settings,
    id,
    version,
    title,
    summary,
    group,
    scope,
    examples,
    byHand = false,
    takesRows = false,
  }): OperationView => ({
    id,
    version,
    title,
    summary,
    group,
    scope,
    byHand,
    takesRows,
    settings: z.toJSONSchema(settings, { io: 'input' }) as Record<string, unknown>,
    examples,
  }),
);

type StepHandlers = Pick<
  Handlers,
  'listOperations' | 'takeStep' | 'listSteps' | 'undo' | 'redo' | 'goTo' | 'getStepBars'
>;

/** What is done to a song, and its history. */
export function stepHandlers({ songs, facts, views, sources, pool }: Services): StepHandlers {
  return {
    listOperations: async () => ({ operations: listed }),

    async takeStep({ params: { id }, body: { revision, preview, ...step } }) {
      const at = await songs.find(id);
      if (at.record.head !== revision)
        throw new Refusal({
          code: 'revision-stale',
          where: { id, field: 'revision' },
          given: revision,
          head: at.record.head,
        });
      const chosenIn = step.scope.revision ?? revision;
      if (step.scope.rows && chosenIn !== revision)
        throw new Refusal({
          code: 'scope-rows-stale',
          where: { id, field: 'scope.revision' },
          given: chosenIn,
          head: revision,
        });
      const { manifest } = at.revision;
      const hashes = manifest.tracks.map((t) => t.blob);
      const from = await sources.read(sourcesOf(step));
      const taken = await askLean([], hashes, async (wanted) => {
        const [blobs, known] = await Promise.all([
          songs.blobs.read([...wanted, ...blobsBeside(manifest)]),
          facts.known(wanted),
        ]);
        const input = { manifest, blobs, known, request: step, sources: from, preview };
        return need(await pool.run('step', input));
      });
      const { described, report, moves } = taken.step;
      const kept = taken.changed && !preview;
      const head = kept ? await songs.addStep(id, revision, taken) : revision;
      if (kept) views.made(id, head, taken);
      const after = preview
        ? { after: taken.shown.map(({ summary, blob }) => trackView(summary, blob)) }
        : {};
      return {
        revision: head,
        changed: taken.changed,
        preview,
        described,
        report,
        ...(moves ? { moves } : {}),
        ...after,
      };
    },

    async listSteps({ params }) {
      const record = await songs.record(params.id);
      const { steps, parents } = await songs.history(record);
      const inForce = new Set(wayTo(parents, record.head));
      const ahead = redoable(parents, record.head);
      const state = (revision: number): StepView['state'] =>
        inForce.has(revision) ? 'in force' : ahead.has(revision) ? 'undone' : 'set aside';
      return {
        head: record.head,
        steps: steps.map((s) => stepView(s, parents.get(s.revision) ?? 0, state(s.revision))),
      };
    },

    async undo({ params: { id }, body }) {
      await songs.record(id);
      return songs.undo(id, body.revision);
    },

    async redo({ params: { id }, body }) {
      await songs.record(id);
      return songs.redo(id, body.revision);
    },

    async goTo({ params: { id }, body }) {
      await songs.record(id);
      return songs.goTo(id, body.to, body.revision);
    },

    async getStepBars({ params: { id, revision } }) {
      const number = /^[1-9]\d{0,8}$/.test(revision) ? Number(revision) : -1;
      const [before, after] = (await songs.aroundStep(id, number)).map((r) => r.manifest);
      return need(
        await pool.run('changedBars', {
          before: before!,
          after: after!,
          blobs: await songs.readBlobs(before!, after!),
        }),
      );
    },
  };
}

/** Revisions that redo would lead through: from the head always to the newest made from it. */
function redoable(parents: ReadonlyMap<number, number | null>, head: number): Set<number> {
  const newest = new Map<number, number>();
  for (const [number, parent] of parents)
    if (parent !== null) newest.set(parent, Math.max(number, newest.get(parent) ?? 0));
  const ahead = new Set<number>();
  for (let at = newest.get(head); at !== undefined; at = newest.get(at)) ahead.add(at);
  return ahead;
}
