import { z } from 'zod';
import { ok, refused, type Problem, type Result } from '../../../problems/problems.ts';
import { tracksIn, type Scope } from '../../../song/scope.ts';
import type { Song } from '../../../song/song.ts';
import { composedMoves, type Moves } from '../../../timing/time-map.ts';
import {
  defineOperation,
  type Applied,
  type Change,
  type Operation,
  type Report,
} from '../../operation.ts';
import { namedSources, runWith } from '../../run-with.ts';
import { filled, type NamedSource, type SourceName, type Sources } from '../../sources.ts';
import { sourceSchema } from '../../source-schema.ts';
import { plainName } from '../../../edit/plain-text.ts';
import { stepsFault } from './check-steps.ts';
import { meaningText } from './meaning-text.ts';
import { tracksMeant } from './tracks-meant.ts';
import { recipeStepSchema, type RecipeStep } from './recipe.ts';

/** A recipe run as one step, over what the other operations can do. Either all of it is done or nothing. */
export const recipeRun = (operations: readonly Operation[]): Operation =>
  defineOperation({
    id: 'recipe.run',
    runsOthers: true,
    version: 3,
    title: 'Run a recipe',
    summary: 'Takes several steps in a row as one, each on the tracks it is meant for.',
    group: 'song',
    scope: 'tracks',
    settings: z.strictObject({
      name: plainName('Name'),
      steps: z.array(recipeStepSchema).min(1).max(500).meta({ title: 'Steps' }),
      sources: z.record(z.string().max(200), sourceSchema).default({}).meta({
        title: 'Sources',
        description: 'What fills the blanks of its steps, by their names.',
      }),
    }),
    sources: ({ steps, sources }) =>
      fill(steps, sources).flatMap((step) => namedSources(operations, step)),
    apply: (song, { steps, sources: given }, scope, sources) =>
      runAll(operations, song, fill(steps, given), scope, sources),
    describe: ({ name, steps }, { changes }) =>
      `Ran “${name}”: ${steps.length === 1 ? 'one step' : `${steps.length} steps`} on ${new Set(changes.map((c) => c.track)).size} tracks`,
    examples: [
      {
        says: 'Notes only, and louder',
        settings: {
          name: 'Loud notes',
          steps: [
            { operation: 'events.keep-notes' },
            { operation: 'velocity.set', settings: { add: 10 }, who: 'pitched' },
          ],
        },
      },
    ],
  });

/** The steps with their blanks filled, as far as something is given for them. */
function fill(
  steps: readonly RecipeStep[],
  given: Readonly<Record<string, SourceName>>,
): readonly RecipeStep[] {
  const named = Object.fromEntries(
    Object.entries(given).filter((entry): entry is [string, NamedSource] => !('blank' in entry[1])),
  );
  return steps.map((step) => ({ ...step, settings: filled(step.settings, named) }));
}

function runAll(
  operations: readonly Operation[],
  before: Song,
  steps: readonly RecipeStep[],
  scope: Scope,
  sources: Sources,
): Result<Applied> {
  const changes: Change[] = [];
  const skipped: Report['skipped'][number][] = [];
  const told: string[] = [];
  const chosen = scope.tracks === 'all' ? undefined : new Set(scope.tracks);
  const inScope = tracksIn(before, scope);
  if (!inScope.ok) return inScope;
  const fault = stepsFault(operations, steps, 'settings.steps');
  if (fault) return refused(fault);
  let song = before;
  let moves: Moves | undefined;
  for (const [n, { operation, version, settings, who }] of steps.entries()) {
    const field = `settings.steps.${n + 1}`;
    const known = operations.find((o) => o.id === operation);
    // Tracks that a step of this recipe added are meant too; those that went are gone.
    const had = new Set(before.tracks.map((t) => t.id));
    const among = chosen
      ? song.tracks.filter((t) => chosen.has(t.id) || !had.has(t.id))
      : song.tracks;
    const meant = tracksMeant(song, among, who, field, before);
    if (!meant.ok) return meant;
    if (meant.value.length === 0) {
      skipped.push({
        why: `Step ${n + 1}, ${known?.title ?? operation}, is for ${meaningText(who)}: there are none here.`,
      });
      continue;
    }
    const all = meant.value.length === song.tracks.length;
    const result = runWith(
      operations,
      song,
      {
        operation,
        version,
        settings,
        scope: { tracks: all ? 'all' : meant.value.map((t) => t.id) },
      },
      sources,
    );
    if (!result.ok) return refused(within(field, result.problem));
    const { report } = result.value;
    ({ song } = result.value);
    moves = composedMoves(moves, result.value.moves);
    changes.push(...ofStep(n + 1, report.changes));
    told.push(...(report.told ?? []).map((say) => `Step ${n + 1}: ${say}`));
    if (report.changes.length === 0)
      skipped.push({
        why: [`Step ${n + 1}, ${known!.title}, had nothing to do.`, ...reasons(report)].join(' '),
      });
  }
  const report = { changes, skipped, ...(told.length > 0 ? { told } : {}) };
  return ok({ song, report, ...(moves ? { moves } : {}) });
}

/** A problem of a step, at the field of the recipe that the step is. */
const within = <P extends Problem>(field: string, problem: P): P => {
  const inner = problem.where.field;
  return { ...problem, where: { ...problem.where, field: inner ? `${field}.${inner}` : field } };
};

/** Changes with the number of the step that made them. */
const ofStep = (n: number, changes: readonly Change[]): Change[] =>
  changes.map((c) => ({ ...c, detail: c.detail ? `step ${n}: ${c.detail}` : `step ${n}` }));

/** Why a step had nothing to do, as far as a line goes. */
const reasons = ({ skipped }: Report): string[] =>
  [...new Set(skipped.map(({ why }) => why))].slice(0, 2);
