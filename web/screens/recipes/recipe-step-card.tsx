import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import { controllerName } from '#core/instruments/controllers.ts';
import type { RecipeStep } from '#core/operations/recipe/run/recipe.ts';
import type { OperationView } from '#contracts/steps.ts';
import type { Field } from '../../fields/field.ts';
import { SchemaForm } from '../../fields/schema-form.tsx';
import { settingsText } from '../../step/step-words.ts';
import { WhoField } from './who-field.tsx';

interface Props {
  readonly n: number;
  readonly count: number;
  readonly step: RecipeStep;
  readonly operation: OperationView | undefined;
  readonly set: (step: RecipeStep) => void;
  readonly move: (by: -1 | 1) => void;
  readonly remove: () => void;
}

/** Lanes that a recipe may name without knowing the song. */
const lanes: (readonly [number | string, string])[] = [
  ...[
    1, 2, 4, 5, 7, 10, 11, 64, 65, 66, 67, 70, 71, 72, 73, 74, 75, 76, 77, 78, 79, 84, 91, 92, 93,
    94, 95,
  ].map((c) => [c, `${c} ${controllerName(c)}`] as const),
  ['bend', 'Pitch bend'],
  ['pressure', 'Pressure'],
  ['program', 'Programs'],
];

const icon =
  'grid size-6 place-items-center rounded border border-transparent hover:border-line disabled:opacity-30';

/** One step of a recipe: what, for whom, with which settings. */
export function RecipeStepCard({ n, count, step, operation, set, move, remove }: Props) {
  const [open, setOpen] = useState(false);
  const fields =
    (operation?.settings as { properties?: Record<string, Field> } | undefined)?.properties ?? {};
  const wholeSong = operation?.scope === 'song';
  return (
    <li className="rounded border border-line bg-sheet px-3 py-2">
      <div className="flex items-center gap-2">
        <span className="num text-faint">{n + 1}</span>
        <span className="font-medium">{operation?.title ?? step.operation}</span>
        <span className="min-w-0 flex-1 truncate text-[12.5px] text-faint">
          {settingsText(step, fields)}
        </span>
        {Object.keys(fields).length > 0 && (
          <button
            type="button"
            aria-expanded={open}
            className="text-[12.5px] underline decoration-line underline-offset-4"
            onClick={() => setOpen(!open)}
          >
            {open ? 'Fold' : 'Settings'}
          </button>
        )}
        <Order n={n} count={count} move={move} remove={remove} />
      </div>
      {!operation && (
        <p className="text-rust">There is no such operation any more: take the step out.</p>
      )}
      {!wholeSong && operation && (
        <WhoField n={n} who={step.who} set={(who) => set({ ...step, who })} />
      )}
      {open && (
        <div className="mt-2 max-w-[420px] border-t border-line pt-2">
          <p className="mb-2 text-[12.5px] text-faint">{operation?.summary}</p>
          <SchemaForm
            fields={fields}
            values={step.settings}
            set={(settings) => set({ ...step, settings })}
            choices={lanes}
            inRecipe
          />
        </div>
      )}
    </li>
  );
}

/** The step earlier, later, or out. */
const Order = ({ n, count, move, remove }: Pick<Props, 'n' | 'count' | 'move' | 'remove'>) => (
  <>
    <button
      type="button"
      className={icon}
      aria-label={`Step ${n + 1} earlier`}
      disabled={n === 0}
      onClick={() => move(-1)}
    >
      <ArrowUp size={13} aria-hidden />
    </button>
    <button
      type="button"
      className={icon}
      aria-label={`Step ${n + 1} later`}
      disabled={n === count - 1}
      onClick={() => move(1)}
    >
      <ArrowDown size={13} aria-hidden />
    </button>
    <button type="button" className={icon} aria-label={`Take step ${n + 1} out`} onClick={remove}>
      <X size={13} aria-hidden />
    </button>
  </>
);
