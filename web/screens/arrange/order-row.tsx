import { keyNow } from '../../keys/shown.ts';
import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical, Plus, X } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import type { KeyCommandId } from '#contracts/key-commands.ts';
import { commandOf } from '../../keys/pressed.ts';
import { barsIn, spanName, type Span } from '../../arrange/order.ts';
import { Button } from '../../components/button.tsx';
import { count, duration } from '../../components/text.ts';

export interface RowActs {
  move(id: string, by: number): void;
  repeat(id: string): void;
  leaveOut(id: string): void;
  /** The bars of the scope become these. */
  scope(span: Span): void;
  focus(id: string, by: number): void;
}

interface Props {
  readonly span: Span;
  readonly place: number;
  readonly seconds: number;
  readonly keyName: string;
  readonly focusable: boolean;
  readonly acts: RowActs;
}

/** One span of the running order, moved by hand or keys, repeated, left out. */
export function OrderRow({ span, place, seconds, keyName, focusable, acts }: Props) {
  const sortable = useSortable({ id: span.id });
  const { setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = sortable;
  const name = spanName(span);
  const onKeyDown = rowKeys(span, acts);
  return (
    <li
      ref={setNodeRef}
      data-span={span.id}
      tabIndex={focusable ? 0 : -1}
      aria-label={`${place}. ${name}, ${count(barsIn(span), 'bar')}`}
      onKeyDown={onKeyDown}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`grid grid-cols-[44px_minmax(0,1fr)_104px_64px_56px_110px_72px] items-center gap-2 border-b border-line py-1 pr-2 outline-offset-[-2px] hover:bg-sheet ${isDragging ? 'relative z-20 bg-sheet shadow-lg' : ''}`}
    >
      <span
        ref={setActivatorNodeRef}
        {...sortable.attributes}
        {...sortable.listeners}
        tabIndex={-1}
        aria-label={`Drag ${name}`}
        className="num flex cursor-grab items-center gap-1 pl-2 text-faint"
      >
        <GripVertical size={12} aria-hidden />
        {place}
      </span>
      <span className={`truncate ${span.name ? 'font-semibold' : 'text-faint'}`} title={name}>
        {name}
        {span.sure !== undefined && (
          <span className="ml-2 text-[11.5px] font-normal text-faint">
            {Math.round(span.sure * 100)}% sure
          </span>
        )}
      </span>
      <span className="num text-faint">
        {span.from === span.to ? `bar ${span.from}` : `bars ${span.from}–${span.to}`}
      </span>
      <span className="num text-right">{count(barsIn(span), 'bar')}</span>
      <span className="num text-right text-faint">{duration(seconds)}</span>
      <span className="truncate pl-2 text-faint">{keyName}</span>
      <RowButtons id={span.id} name={name} acts={acts} />
    </li>
  );
}

const RowButtons = ({ id, name, acts }: { id: string; name: string; acts: RowActs }) => (
  <span className="flex justify-end gap-0.5">
    <Button
      kind="quiet"
      tabIndex={-1}
      className="px-1.5"
      aria-label={`Repeat ${name}`}
      title={`Repeat (${keyNow('arrange-repeat')})`}
      onClick={() => acts.repeat(id)}
    >
      <Plus size={14} aria-hidden />
    </Button>
    <Button
      kind="quiet"
      tabIndex={-1}
      className="px-1.5"
      aria-label={`Leave ${name} out`}
      title={`Leave out (${keyNow('arrange-out')})`}
      onClick={() => acts.leaveOut(id)}
    >
      <X size={14} aria-hidden />
    </Button>
  </span>
);

/** What the keys do with a span whose row has the focus. */
function rowKeys(span: Props['span'], acts: Props['acts']): (e: KeyboardEvent) => void {
  return (e: KeyboardEvent): void => {
    if (e.target !== e.currentTarget) return;
    const by = { ArrowUp: -1, ArrowDown: 1 }[e.key];
    const commands: Partial<Record<KeyCommandId, () => void>> = {
      'arrange-up': () => acts.move(span.id, -1),
      'arrange-down': () => acts.move(span.id, 1),
      'arrange-repeat': () => acts.repeat(span.id),
      'arrange-out': () => acts.leaveOut(span.id),
      'arrange-scope': () => acts.scope(span),
    };
    const command = commandOf(e, 'arrange');
    if (command && commands[command]) commands[command]();
    else if (e.ctrlKey || e.metaKey || e.altKey) return;
    else if (by !== undefined) acts.focus(span.id, by);
    else if (e.key === 'Enter') acts.scope(span);
    else return;
    e.preventDefault();
  };
}
