import type { InstrumentsRead } from '#contracts/instruments.ts';
import { useTakeInstruments } from '../../api/instruments.ts';
import { Button } from '../../components/button.tsx';
import { count } from '../../components/text.ts';

/** More rows are counted. */
const most = 200;

/** What a file of instruments holds, before any of it is kept. */
export function ReadFile({
  file,
  read: { instruments, told },
  done,
}: {
  file: string;
  read: InstrumentsRead;
  done: () => void;
}) {
  const take = useTakeInstruments();
  const over = instruments.filter((i) => i.over !== null).length;
  return (
    <section aria-label="What the file holds" className="mx-auto max-w-[860px]">
      <h2 className="text-[19px] font-semibold">{file}</h2>
      <p className="mt-1">
        {count(instruments.length, 'instrument')}
        {over > 0 &&
          `; ${over} of them ${over === 1 ? 'takes' : 'take'} the place of one of the same name and device, which keeps what such a file cannot say: range, voices, transposition, clef`}
        .
      </p>
      {told.length > 0 && (
        <ul className="mt-2 border-l-3 border-ochre-fill pl-3">
          {told.slice(0, 20).map((line, n) => (
            <li key={n}>{line}</li>
          ))}
          {told.length > 20 && <li>and {told.length - 20} more.</li>}
        </ul>
      )}
      <div className="my-3 flex gap-2">
        <Button
          kind="next"
          disabled={take.isPending}
          onClick={() => take.mutate(instruments, { onSuccess: done })}
        >
          Take {count(instruments.length, 'instrument')}
        </Button>
        <Button onClick={done}>Not now</Button>
      </div>
      <ul className="columns-2 gap-6 text-[13px]">
        {instruments.slice(0, most).map(({ definition: d, over: there }, n) => (
          <li key={n} className="flex gap-2 break-inside-avoid">
            <span className="num w-[52px] shrink-0 text-faint">{d.label}</span>
            <span className="min-w-0 flex-1 truncate">{d.name}</span>
            <span className="text-faint">{there ? 'there already' : ''}</span>
          </li>
        ))}
        {instruments.length > most && <li>and {instruments.length - most} more</li>}
      </ul>
    </section>
  );
}
