import { Pencil, Trash2 } from 'lucide-react';
import { RadioGroup } from 'radix-ui';
import { Button } from '../../components/button.tsx';
import { gridNames, type GridName } from './snap.ts';
import { ToggleButton } from '../../components/toggle-button.tsx';
import { Choice, asSaid } from '../../fields/choice.tsx';

interface Props {
  readonly labels: readonly string[];
  readonly focus: number;
  readonly onFocus: (index: number) => void;
  readonly grid: GridName;
  readonly onGrid: (grid: GridName) => void;
  readonly drawing: boolean;
  readonly onDrawing: (drawing: boolean) => void;
  /** Opens what can be done with chosen notes; undefined where none is chosen. */
  readonly steps: (() => void) | undefined;
  /** Undefined where nothing can be deleted. */
  readonly remove: (() => void) | undefined;
  /** What is pointed at or selected. */
  readonly said: string;
}

/** More than these seldom fit beside the rest: all of them are in a list, too. */
const mostChips = 5;

/** Above the notes: the track in focus, the grid, drawing and deleting. */
export function NoteBar({
  labels,
  focus,
  onFocus,
  grid,
  onGrid,
  drawing,
  onDrawing,
  steps,
  remove,
  said,
}: Props) {
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-3 py-1.5 md:flex-nowrap">
      <Focused labels={labels} focus={focus} onFocus={onFocus} />
      <span
        className="num max-w-[340px] min-w-[205px] shrink-0 truncate text-right text-faint"
        title={said}
        aria-live="polite"
      >
        {said}
      </span>
      <span className="shrink-0 text-[12.5px]">
        <Choice label="Snap to" value={grid} options={asSaid(gridNames)} set={onGrid} />
      </span>
      <Button disabled={!steps} title="What to do with the chosen notes (Enter)" onClick={steps}>
        Steps …
      </Button>
      <ToggleButton
        pressed={drawing}
        set={onDrawing}
        className="shrink-0"
        title="Press on an empty place to draw a note, drag for its length"
      >
        <Pencil size={13} aria-hidden /> Draw
      </ToggleButton>
      <Button kind="harm" className="shrink-0" disabled={!remove} onClick={remove}>
        <Trash2 size={13} aria-hidden /> Delete
      </Button>
    </div>
  );
}

/** The track that is worked on; of many also by name. */
const Focused = ({ labels, focus, onFocus }: Pick<Props, 'labels' | 'focus' | 'onFocus'>) => (
  <>
    <RadioGroup.Root
      aria-label="Track in focus"
      value={String(focus)}
      onValueChange={(i) => onFocus(Number(i))}
      className="flex min-w-0 flex-1 gap-1 overflow-x-auto"
    >
      {labels.map((label, i) => (
        <RadioGroup.Item
          key={i}
          value={String(i)}
          title={label}
          className="max-w-[180px] shrink-0 truncate rounded-full border border-line px-2 py-0.5 text-[12px] text-faint aria-checked:border-amber aria-checked:bg-amber-soft aria-checked:text-ink"
        >
          {label}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
    {labels.length > mostChips && (
      <Choice
        label="Any track"
        hidden
        className="max-w-[120px]"
        value={focus}
        options={labels.map((label, i) => [i, label] as const)}
        set={onFocus}
      />
    )}
  </>
);
