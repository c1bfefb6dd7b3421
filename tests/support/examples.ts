import { operations } from '#core/operations/index.ts';
import type { StepRequest } from '#core/operations/run.ts';

/** Every example of every operation as a step, with a name for a test. */
export const exampleSteps: readonly StepRequest[] = operations.flatMap((o) => o.examples.map((e): StepRequest => ({ operation: o.id, settings: e.settings, ...(e.scope ? { scope: e.scope } : {}) })));
export const namedSteps = (steps: readonly StepRequest[] = exampleSteps): [string, StepRequest][] => steps.map((s) => [`${s.operation} ${JSON.stringify(s.settings)}`, s]);
