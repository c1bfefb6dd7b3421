import { operations } from '../operations/index.ts';
import type { Report } from '../operations/operation.ts';
import { upgraded } from '../operations/run-with.ts';
import { movesSchema, reportSchema } from '../operations/report-schema.ts';
import { schemaFaultWords } from '../problems/schema-fault.ts';
import { scopeSchema } from '../song/scope.ts';
import type { KeptSong } from './kept-song.ts';

type KeptStep = KeptSong['steps'][number];

/**
 * Checks the history of a song out of a satchel: every revision but the first was made by one step, each by an
 * operation that is known, with settings, scope and report of the shape they have. Descriptions are made anew
 * from these. Gives the steps, or what is wrong in words.
 */
export function checkHistory({
  revisions,
  steps,
}: Pick<KeptSong, 'revisions' | 'steps'>): { steps: KeptStep[] } | { why: string } {
  const made = new Set<number>();
  const checked: KeptStep[] = [];
  for (const step of steps) {
    if (made.has(step.revision)) return { why: `revision ${step.revision} has two steps` };
    made.add(step.revision);
    const found = checkStep(step);
    if ('why' in found) return { why: `the step of revision ${step.revision}: ${found.why}` };
    checked.push(found.step);
  }
  const without = revisions.find(({ number }) => number !== 0 && !made.has(number));
  return without ? { why: `revision ${without.number} has no step` } : { steps: checked };
}

function checkStep(step: KeptStep): { step: KeptStep } | { why: string } {
  const operation = operations.find(({ id }) => id === step.operation);
  if (!operation) return { why: `the operation "${step.operation.slice(0, 60)}" is unknown` };
  if (step.version > operation.version)
    return {
      why: `${operation.id} is known up to version ${operation.version}, not ${step.version}`,
    };
  const given = upgraded(operation, step.settings, step.version);
  const settings = operation.settings.safeParse(given);
  if (!settings.success) return { why: schemaFaultWords('settings', settings.error, given) };
  const scope = scopeSchema.safeParse(step.scope);
  if (!scope.success) return { why: schemaFaultWords('scope', scope.error, step.scope) };
  const report = reportSchema.safeParse(step.report);
  if (!report.success) return { why: schemaFaultWords('report', report.error, step.report) };
  const moves = movesSchema.nullable().safeParse(step.moves);
  if (!moves.success) return { why: schemaFaultWords('moves', moves.error, step.moves) };
  return {
    step: {
      ...step,
      report: report.data,
      moves: moves.data,
      described: operation.describe(settings.data, report.data as Report, scope.data),
    },
  };
}
