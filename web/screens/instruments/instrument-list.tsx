import { useState } from 'react';
import type { InstrumentView } from '#contracts/instruments.ts';
import { familyOf } from '#core/instruments/general-midi.ts';
import { input } from '../../fields/field.ts';

/** More are found by searching. */
const most = 400;

const familyIn = ({ drums, program }: InstrumentView['definition']): string =>
  drums ? 'Drums' : familyOf(program - 1);

/** Instruments found by what is typed: one's own, then those that come along, by family. */
export function InstrumentList({
  list,
  open,
  choose,
}: {
  list: readonly InstrumentView[];
  open: string | undefined;
  choose: (id: string) => void;
}) {
  const [typed, type] = useState('');
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = list.filter(({ definition: d }) => {
    const said = `${d.name} ${d.maker} ${d.model} ${familyIn(d)}`.toLowerCase();
    return words.every((w) => said.includes(w));
  });
  return (
    <>
      <input
        type="search"
        aria-label="Search instruments"
        placeholder="Name, maker, family …"
        className={`${input} mb-2 w-full placeholder:text-faint`}
        value={typed}
        onChange={(e) => type(e.target.value)}
      />
      <div className="min-h-0 flex-1 overflow-auto pb-3">
        <Group
          title="Your own"
          list={found.filter((i) => !i.along)}
          none={
            words.length > 0
              ? 'None of that name.'
              : 'None yet. Begin a new one, read a file, or save one that comes along as your own.'
          }
          open={open}
          choose={choose}
        />
        <Group
          title="That come along"
          list={found.filter((i) => i.along)}
          open={open}
          choose={choose}
        />
      </div>
    </>
  );
}

function Group({
  title,
  list,
  none,
  open,
  choose,
}: {
  title: string;
  list: readonly InstrumentView[];
  none?: string;
  open: string | undefined;
  choose: (id: string) => void;
}) {
  return (
    <section className="mb-4">
      <h2 className="seam mb-1 pb-1 text-[12px] text-faint">{title}</h2>
      {list.length === 0 && none && <p className="text-[12.5px] text-faint">{none}</p>}
      <ul>
        {list.slice(0, most).map(({ id, definition }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === open}
              className="flex w-full items-baseline gap-2 rounded px-2 py-0.5 text-left hover:bg-sheet aria-[current=true]:bg-amber-soft"
              onClick={() => choose(id)}
            >
              <span className="min-w-0 flex-1 truncate">{definition.name}</span>
              <span className="shrink-0 text-[11.5px] text-faint">
                {definition.maker || familyIn(definition)}
              </span>
            </button>
          </li>
        ))}
        {list.length > most && (
          <li className="px-2 text-[12.5px] text-faint">
            and {list.length - most} more: search for them
          </li>
        )}
      </ul>
    </section>
  );
}
