import { meaningText } from '#core/operations/recipe/run/meaning-text.ts';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import { isBlank } from '#core/operations/sources.ts';
import type { OperationView } from '#contracts/steps.ts';
import type { Field } from '../fields/field.ts';

/** The settings that differ from what they are by themselves, in words. */
export function settingsText(
  { settings }: RecipeStep,
  fields: Readonly<Record<string, Field>>,
): string {
  return Object.entries(settings)
    .filter(([name, value]) => JSON.stringify(value) !== JSON.stringify(fields[name]?.default))
    .map(
      ([name, value]) =>
        `${fields[name]?.title ?? name}: ${Array.isArray(value) ? value.join(', ') : isBlank(value) ? `asks for “${value.blank}”` : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value)}`,
    )
    .join('; ');
}

/** "Keep only notes for all tracks". */
export const stepLine = (step: RecipeStep, operations: readonly OperationView[]): string =>
  `${operations.find((o) => o.id === step.operation)?.title ?? step.operation}, for ${meaningText(step.who)}`;
