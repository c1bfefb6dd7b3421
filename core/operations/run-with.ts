import type { z } from 'zod';
import { ok, refused, type Problem, type Result } from '../problems/problems.ts';
import { scopeSchema, type Scope } from '../song/scope.ts';
import type { Song } from '../song/song.ts';
import type { Operation, Report } from './operation.ts';

/** A step as it is asked for, from anywhere: settings and scope are not trusted. */
export interface StepRequest {
  readonly operation: string;
  readonly settings?: unknown;
  readonly scope?: unknown;
}

export interface StepResult {
  readonly song: Song;
  readonly report: Report;
  readonly described: string;
  readonly operation: Operation;
  /** As validated, with defaults filled in. */
  readonly settings: Record<string, unknown>;
  readonly scope: Scope;
}

/** Checks and applies one step of the operations given. */
export function runWith(operations: readonly Operation[], song: Song, request: StepRequest): Result<StepResult> {
  const operation = operations.find((o) => o.id === request.operation);
  if (!operation) return refused({ code: 'operation-unknown', where: { id: request.operation }, known: operations.map((o) => o.id) });
  const settings = operation.settings.safeParse(request.settings ?? {});
  if (!settings.success) return refused(invalid('settings', settings.error));
  const scope = scopeSchema.safeParse(request.scope ?? {});
  if (!scope.success) return refused(invalid('scope', scope.error));
  if (scope.data.bars && operation.scope !== 'events') return refused({ code: 'scope-has-bars', where: { field: 'scope.bars' } });
  const applied = operation.apply(song, settings.data, scope.data);
  if (!applied.ok) return applied;
  const { report } = applied.value;
  return ok({ ...applied.value, described: operation.describe(settings.data, report), operation, settings: settings.data, scope: scope.data });
}

/** The first fault of a validation, as a problem that names the field. */
export function invalid(root: string, error: z.ZodError): Problem {
  const [issue] = error.issues;
  const field = [root, ...(issue?.path ?? [])].join('.');
  return { code: 'settings-invalid', where: { field }, expected: expectation(issue), found: found(issue) };
}

function expectation(issue: z.core.$ZodIssue | undefined): string {
  if (issue?.code === 'too_small') return `at least ${issue.minimum}${issue.origin === 'string' ? ' character' : ''}`;
  if (issue?.code === 'too_big') return `at most ${issue.maximum}${issue.origin === 'string' ? ' characters' : ''}`;
  if (issue?.code === 'unrecognized_keys') return 'only the fields that are described';
  if (issue?.code === 'invalid_type') return issue.expected;
  return issue?.message ?? 'what is described';
}

function found(issue: z.core.$ZodIssue | undefined): string {
  if (issue?.code === 'unrecognized_keys') return issue.keys.join(', ').slice(0, 200);
  if (issue?.code === 'invalid_type') return 'something of another type, or nothing';
  if (issue?.code === 'too_small') return 'less';
  if (issue?.code === 'too_big') return 'more';
  return 'something else';
}
