import type { Problem } from '../../../problems/problems.ts';
import type { Operation } from '../../operation.ts';
import type { RecipeStep } from './recipe.ts';

/**
 * What of a recipe's steps no song can take: an operation that is unknown, of a later version, or for places of
 * one song. Whether its tracks are there does not matter.
 *
 * @param field of the steps; each is named by its number from 1
 */
export function stepsFault(
  operations: readonly Operation[],
  steps: readonly RecipeStep[],
  field: string,
): Problem | undefined {
  for (const [n, { operation: id, version = 1 }] of steps.entries()) {
    const at = `${field}.${n + 1}`;
    const operation = operations.find((o) => o.id === id);
    if (!operation)
      return {
        code: 'operation-unknown',
        where: { field: at, id },
        known: operations.map((o) => o.id),
      };
    if (operation.byHand)
      return {
        code: 'settings-invalid',
        where: { field: at },
        expected: 'an operation that fits any song',
        found: `${id}, which names places of one song`,
      };
    if (version > operation.version)
      return {
        code: 'settings-invalid',
        where: { field: `${at}.version` },
        expected: `at most ${operation.version}`,
        found: String(version),
      };
  }
  return undefined;
}
