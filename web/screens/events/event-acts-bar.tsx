import { Pencil, Plus, Trash2 } from 'lucide-react';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';
import { keyNow } from '../../keys/shown.ts';

/** How many there are, how many of them are listed, and how many chosen. */
export const countWords = (all: number, shown: number, chosen: number): string =>
  [
    count(all, 'event'),
    shown < all && `; the first ${shown.toLocaleString('en')} are listed, filter for the others`,
    chosen > 0 && `, ${chosen.toLocaleString('en')} selected`,
  ]
    .filter(Boolean)
    .join('');

interface ActsProps {
  readonly counted: string;
  readonly chosen: number;
  readonly busy: boolean;
  readonly inserting: boolean;
  readonly remove: () => void;
  /** Undefined where everything is listed. */
  readonly removeShown: (() => void) | undefined;
  readonly edit: () => void;
  readonly insert: () => void;
  readonly steps: () => void;
}

/** What can be done to events, above them. */
export const EventActsBar = ({
  counted,
  chosen,
  busy,
  inserting,
  remove,
  removeShown,
  edit,
  insert,
  steps,
}: ActsProps) => (
  <div className="mb-1 flex items-center gap-3">
    <p className="text-faint" aria-live="polite">
      {counted}
    </p>
    <Button disabled={chosen === 0} title="What to do with the chosen events" onClick={steps}>
      Steps …
    </Button>
    <Button kind="harm" disabled={chosen === 0 || busy} onClick={remove}>
      <Trash2 size={13} aria-hidden /> Delete
    </Button>
    {removeShown && (
      <Button
        kind="harm"
        disabled={busy}
        onClick={removeShown}
        title={`Everything that is listed, in one step (${keyNow('events-remove-shown')})`}
      >
        Delete all shown
      </Button>
    )}
    <Button
      disabled={chosen === 0 || busy}
      onClick={edit}
      title={chosen > 1 ? 'Edit all of them at once (Enter)' : 'Edit (Enter, or a double click)'}
    >
      <Pencil size={13} aria-hidden /> Edit
    </Button>
    <Button
      aria-expanded={inserting}
      disabled={busy}
      onClick={insert}
      title={`Insert an event (${keyNow('events-insert')})`}
    >
      <Plus size={13} aria-hidden /> Insert
    </Button>
  </div>
);
