import { Pencil, Trash2 } from 'lucide-react';
import { Button } from '../../components/button.tsx';
import { gridNames, type GridName } from './snap.ts';

interface Props {
  readonly labels: readonly string[];
  readonly focus: number;
  readonly onFocus: (index: number) => void;
  readonly grid: GridName;
  readonly onGrid: (grid: GridName) => void;
  readonly drawing: boolean;
  readonly onDrawing: (drawing: boolean) => void;
  /** Undefined where nothing can be deleted. */
  readonly remove: (() => void) | undefined;
  /** What is pointed at or selected. */
  readonly said: string;
}

/** Above the notes: the track in focus, the grid, drawing and deleting. */
export function NoteBar({ labels, focus, onFocus, grid, onGrid, drawing, onDrawing, remove, said }: Props) {
  return (
    <div className="flex items-center gap-2 border-b border-line px-3 py-1.5">
      <div className="flex min-w-0 flex-1 gap-1 overflow-x-auto" role="radiogroup" aria-label="Track in focus">
        {labels.map((label, i) => (
          <button key={i} type="button" role="radio" aria-checked={i === focus} title={label} className="max-w-[180px] shrink-0 truncate rounded-full border border-line px-2 py-0.5 text-[12px] text-faint aria-checked:border-amber aria-checked:bg-amber-soft aria-checked:text-ink" onClick={() => onFocus(i)}>
            {label}
          </button>
        ))}
      </div>
      <span className="num w-[205px] shrink-0 text-right text-faint" aria-live="polite">
        {said}
      </span>
      <label className="flex shrink-0 items-center gap-1 text-[12.5px]">
        Snap to
        <select className="rounded border border-line bg-sheet px-1 py-0.5" value={grid} onChange={(e) => onGrid(e.target.value as GridName)}>
          {gridNames.map((g) => (
            <option key={g}>{g}</option>
          ))}
        </select>
      </label>
      <Button aria-pressed={drawing} className={`shrink-0 ${drawing ? '!border-amber !bg-amber-soft' : ''}`} onClick={() => onDrawing(!drawing)} title="Press on an empty place to draw a note, drag for its length">
        <Pencil size={13} aria-hidden /> Draw
      </Button>
      <Button kind="harm" className="shrink-0" disabled={!remove} onClick={remove}>
        <Trash2 size={13} aria-hidden /> Delete
      </Button>
    </div>
  );
}
