import { FileInput, Plus } from 'lucide-react';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { ReceiverView } from '#contracts/receivers.ts';
import { shippedReceivers } from '#core/handoff/receiver/shipped.ts';
import { problemOf } from '../../api/client.ts';
import { useReceivers, useTakeReceivers } from '../../api/receivers.ts';
import { Button } from '../../components/button.tsx';
import { PageHead } from '../../components/page-head.tsx';
import { ProblemNote } from '../../components/problem-note.tsx';
import { ReceiverEditor } from './receiver-editor.tsx';

/** One that takes everything, to begin with. */
const blank: ReceiverView = {
  ...shippedReceivers[0]!,
  id: '',
  name: 'New receiver',
  about: '',
  packed: 'files',
  shipped: false,
};

/** Who handoffs are for: one's own and those that come along; each described by what it can take. */
export function ReceiversScreen() {
  const receivers = useReceivers();
  const [params, setParams] = useSearchParams();
  const [fresh, setFresh] = useState(false);
  const list = receivers.data ?? [];
  const open = fresh ? blank : (list.find((r) => r.id === params.get('open')) ?? list[0]);
  const choose = (id: string): void => {
    setFresh(false);
    setParams({ open: id }, { replace: true });
  };
  return (
    <div className="flex h-full flex-col">
      <PageHead title="Receivers" />
      <div className="beside grid min-h-0 flex-1 grid-cols-[270px_minmax(0,1fr)]">
        <nav aria-label="Receivers" className="min-h-0 overflow-auto border-r border-line p-3">
          <Ways begin={() => setFresh(true)} taken={choose} />
          {receivers.error && <ProblemNote problem={problemOf(receivers.error)} harm />}
          <Group
            title="Your own"
            receivers={list.filter((r) => !r.shipped)}
            open={open?.id}
            choose={choose}
            none="None yet. Change one that comes along, begin a new one, or import a file."
          />
          <Group
            title="That come along"
            receivers={list.filter((r) => r.shipped)}
            open={open?.id}
            choose={choose}
          />
        </nav>
        <main aria-label="Receiver" className="min-h-0 overflow-auto px-7 py-5">
          {open && <ReceiverEditor key={open.id || 'new'} receiver={open} saved={choose} />}
        </main>
      </div>
    </div>
  );
}

function Group({
  title,
  receivers,
  open,
  choose,
  none,
}: {
  title: string;
  receivers: readonly ReceiverView[];
  open: string | undefined;
  choose: (id: string) => void;
  none?: string;
}) {
  return (
    <section className="mb-4">
      <h2 className="seam mb-1 pb-1 text-[12px] text-faint">{title}</h2>
      {receivers.length === 0 && none && <p className="text-[12.5px] text-faint">{none}</p>}
      <ul>
        {receivers.map((r) => (
          <li key={r.id}>
            <button
              type="button"
              aria-current={r.id === open}
              className="w-full rounded px-2 py-1 text-left break-words hover:bg-sheet aria-[current=true]:bg-amber-soft"
              onClick={() => choose(r.id)}
            >
              {r.name}
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A new one, or those of a file, of which the first is shown. */
function Ways({ begin, taken }: { begin: () => void; taken: (id: string) => void }) {
  const take = useTakeReceivers();
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <div className="mb-3 grid grid-cols-2 gap-1.5">
        <Button onClick={begin}>
          <Plus size={14} aria-hidden /> New
        </Button>
        <Button onClick={() => file.current?.click()}>
          <FileInput size={14} aria-hidden /> Import …
        </Button>
      </div>
      <input
        ref={file}
        type="file"
        hidden
        accept=".json,application/json"
        aria-label="File of receivers"
        data-testid="receivers-file"
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          e.target.value = '';
          if (chosen)
            take.mutate(chosen, { onSuccess: ({ receivers: [first] }) => taken(first!.id) });
        }}
      />
      {take.error && (
        <div className="mb-3">
          <ProblemNote problem={problemOf(take.error)} harm />
        </div>
      )}
    </>
  );
}
