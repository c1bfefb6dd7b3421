import { operations } from './index.ts';
import type { Operation } from './operation.ts';

const byId = new Map(operations.map((operation) => [operation.id as string, operation]));

/** The operation of an id; undefined where there is none. */
export const findOperation = (id: string): Operation | undefined => byId.get(id);
