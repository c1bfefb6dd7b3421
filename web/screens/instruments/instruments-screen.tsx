import { FileInput, FileOutput, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { InstrumentsRead, InstrumentView } from '#contracts/instruments.ts';
import { definitionSchema } from '#core/instruments/definition.ts';
import { problemOf } from '../../api/client.ts';
import { useInstruments, useReadInstruments } from '../../api/instruments.ts';
import { Button } from '../../components/button.tsx';
import { PageHead } from '../../components/page-head.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { InstrumentEditor } from './instrument-editor.tsx';
import { InstrumentList } from './instrument-list.tsx';
import { ReadFile } from './read-file.tsx';
import { WriteFile } from './write-file.tsx';

const blank: InstrumentView = {
  id: '',
  along: false,
  definition: definitionSchema.parse({ name: 'New instrument' }),
};

/** What is shown beside the list. */
type Shown =
  { what: 'one' | 'new' | 'write' } | { what: 'read'; file: string; read: InstrumentsRead };

/**
 * Instruments: one's own and those that come along; each can be looked at, changed, read from files and
 * written to them.
 */
export function InstrumentsScreen() {
  const { data: list = [], error } = useInstruments();
  const [params, setParams] = useSearchParams();
  const [shown, show] = useState<Shown>({ what: 'one' });
  const reading = useReadInstruments();
  const open =
    shown.what === 'new' ? blank : (list.find((i) => i.id === params.get('open')) ?? list[0]);
  const choose = (id: string): void => {
    show({ what: 'one' });
    setParams({ open: id }, { replace: true });
  };
  const read = (file: File): void =>
    reading.mutate(file, {
      onSuccess: (found) => show({ what: 'read', file: file.name, read: found }),
    });
  return (
    <div className="flex h-full flex-col">
      <PageHead title="Instruments" />
      <div className="beside grid min-h-0 flex-1 grid-cols-[290px_minmax(0,1fr)]">
        <nav
          aria-label="Instruments"
          className="flex min-h-0 flex-col border-r border-line px-3 pt-3"
        >
          <Ways show={show} read={reading.isPending ? undefined : read} />
          {error && <ProblemNote problem={problemOf(error)} harm />}
          <InstrumentList
            list={list}
            open={shown.what === 'one' ? open?.id : undefined}
            choose={choose}
          />
        </nav>
        <main aria-label="Instrument" className="min-h-0 overflow-auto px-7 py-5">
          {shown.what === 'read' ? (
            <ReadFile {...shown} done={() => show({ what: 'one' })} />
          ) : shown.what === 'write' ? (
            <WriteFile list={list} />
          ) : (
            open && <InstrumentEditor key={keyOf(open)} instrument={open} saved={choose} />
          )}
        </main>
      </div>
    </div>
  );
}

/** What was saved is another form. */
const keyOf = ({ id, definition }: InstrumentView): string =>
  `${id || 'new'} ${JSON.stringify(definition)}`;

/** Another one, those of a file, or all into a file. */
function Ways({
  show,
  read,
}: {
  show: (shown: Shown) => void;
  /** Undefined while a file is read. */
  read: ((file: File) => void) | undefined;
}) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <div className="mb-2 flex gap-1.5">
      <Button onClick={() => show({ what: 'new' })}>
        <Plus size={14} aria-hidden /> New
      </Button>
      <Button onClick={() => chooser.current?.click()} disabled={!read}>
        <FileInput size={14} aria-hidden /> Read …
      </Button>
      <Button onClick={() => show({ what: 'write' })}>
        <FileOutput size={14} aria-hidden /> Write …
      </Button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept=".json,.midnam,.xml"
        aria-label="File of instruments"
        data-testid="instrument-file"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) read?.(file);
        }}
      />
    </div>
  );
}
