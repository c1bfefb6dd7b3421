import { useId, type ChangeEvent } from 'react';
import { keyName } from '#core/units/units.ts';
import { usePreferences } from '../state/preferences.ts';
import { input, type Field, type FieldProps } from './field.ts';
import { Note } from './note.tsx';
import { Slider } from './slider.tsx';

/** Ranges no longer than this have a slider. */
const longestSlider = 500;

/**
 * A number that is typed: while it is, it may pass through what is out of range; it is brought into it when
 * the field is left.
 */
function useNumber(
  { type, minimum = 0, maximum = 127 }: Field,
  value: unknown,
  set: (value: unknown) => void,
  optional: boolean,
) {
  const clamped = (n: number): number => Math.min(maximum, Math.max(minimum, n));
  return {
    type: 'number',
    value: typeof value === 'number' ? value : '',
    min: minimum,
    max: maximum,
    step: type === 'integer' ? 1 : 'any',
    placeholder: optional ? '–' : undefined,
    onChange: ({ target: { value: text } }: ChangeEvent<HTMLInputElement>): void => {
      if (text === '' && optional) return set(null);
      if (text !== '' && Number.isFinite(Number(text))) set(Number(text));
    },
    onBlur: (): void => {
      if (typeof value === 'number' && clamped(value) !== value) set(clamped(value));
    },
  } as const;
}

/** A number to type, to step with the arrow keys and, where its range is no longer than a slider, to drag. */
export function NumberField({
  field,
  number,
  value,
  set,
  optional,
  wrong,
}: FieldProps & { number: Field; optional: boolean }) {
  const id = useId();
  const middleC = usePreferences((p) => p.middleC);
  const box = useNumber(number, value, set, optional);
  const slides = !optional && box.max - box.min <= longestSlider;
  return (
    <div>
      <div className="flex items-center gap-2">
        <label htmlFor={id} className="min-w-0 flex-1">
          {field.title}
          {field.unit && <span className="text-faint"> ({field.unit})</span>}
          {field.shows === 'key' && typeof value === 'number' && (
            <span className="text-faint"> {keyName(value, middleC)}</span>
          )}
        </label>
        <input
          id={id}
          className={`${input} num w-[66px] text-right aria-invalid:border-rust`}
          aria-invalid={wrong !== undefined}
          {...box}
        />
      </div>
      {slides && (
        <Slider
          label={`${field.title}, slider`}
          least={box.min}
          most={box.max}
          step={box.step === 1 ? 1 : sliderStep(box.max - box.min)}
          value={box.value === '' ? box.min : box.value}
          set={set}
        />
      )}
      <Note field={field} />
    </div>
  );
}

/** A slider of fine numbers goes in about two hundred steps, each a round number. */
const sliderStep = (range: number): number => 10 ** Math.floor(Math.log10(range / 100));

/** One of several numbers in a row. */
export function PartField({ field, value, set, wrong }: FieldProps) {
  const number = useNumber(field, value, set, false);
  return (
    <label className="flex items-center gap-1.5" title={field.description}>
      {field.title}
      <input
        className={`${input} num w-[46px] text-right aria-invalid:border-rust`}
        aria-invalid={wrong !== undefined}
        {...number}
      />
    </label>
  );
}
