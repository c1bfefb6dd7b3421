import { Link } from 'react-router';
import type { ReceiverView } from '#contracts/receivers.ts';
import { useReceivers } from '../../api/receivers.ts';
import { handingFor } from '../../handoff/asked.ts';
import type { Setting } from './handing.ts';

/** Who it is for: choosing one sets everything else. Digits choose as long as the list has the focus. */
export function ReceiverPart({ song, handing, change }: Setting) {
  const receivers = useReceivers().data ?? [];
  const choose = (receiver: ReceiverView | undefined): void =>
    change(handingFor(receiver, song, handing));
  const all: readonly (ReceiverView | undefined)[] = [undefined, ...receivers];
  const at = all.findIndex((r) => (r?.id ?? null) === handing.receiver);
  const now = all[at];
  return (
    <section aria-label="Receiver" className="mt-3 border-b border-line pb-3">
      <div className="mb-1 flex items-baseline justify-between">
        <h3 className="font-medium">For whom</h3>
        <Link
          to="/receivers"
          className="text-[12.5px] text-faint underline decoration-line underline-offset-3 hover:decoration-amber"
        >
          Receivers …
        </Link>
      </div>
      <ul
        role="listbox"
        aria-label="For whom"
        aria-activedescendant={`receiver-${at}`}
        tabIndex={0}
        className="h-[250px] overflow-auto rounded border border-line bg-sheet"
        onKeyDown={(e) => {
          const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
          const digit = /^[0-9]$/.test(e.key) ? Number(e.key) : undefined;
          const next = step !== undefined ? at + step : digit;
          if (next === undefined || e.ctrlKey || e.metaKey || e.altKey) return;
          e.preventDefault();
          e.stopPropagation();
          if (next < 0 || next >= all.length) return;
          choose(all[next]);
          document.getElementById(`receiver-${next}`)?.scrollIntoView({ block: 'nearest' });
        }}
      >
        {all.map((r, n) => (
          <li
            key={r?.id ?? 'nobody'}
            id={`receiver-${n}`}
            role="option"
            aria-selected={n === at}
            className="flex cursor-default items-baseline gap-2 px-2 py-[3px] hover:bg-paper aria-selected:bg-amber-soft"
            onClick={() => choose(r)}
          >
            <span className="num w-3 shrink-0 text-right text-[11px] text-faint" aria-hidden>
              {n < 10 ? n : ''}
            </span>
            <span className="min-w-0 truncate">{r?.name ?? 'Nobody in particular'}</span>
            {r && !r.shipped && <span className="shrink-0 text-[11.5px] text-faint">yours</span>}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-[12.5px] text-faint">
        {now?.about || (now ? '' : 'Everything as it is set below.')}
        {now?.packed !== undefined && now.packed !== 'files' && ` It leaves as a ${now.packed}.`}
      </p>
    </section>
  );
}
