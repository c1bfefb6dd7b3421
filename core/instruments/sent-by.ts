import type { InstrumentDefinition } from './definition.ts';

/** Program from 0 and bank that choose it. */
export const sentBy = ({
  program: heard,
  sends,
}: Pick<InstrumentDefinition, 'program' | 'sends'>): { program: number; bank: number | null } => ({
  program: (sends?.program ?? heard) - 1,
  bank: sends?.bank ?? null,
});
