import { clipKinds } from '#core/shelf/kind.ts';
import { count } from '../../components/text.ts';
import { Choice } from '../../fields/choice.tsx';
import { input } from '../../fields/field.ts';
import { useShelf } from '../../state/shelf.ts';

const any = '';

/** What of the shelf is listed: by words, kind, meter, tempo, length, and what plays it. */
export function Narrowing({
  meters,
  total,
}: {
  meters: readonly string[];
  total: number | undefined;
}) {
  const { asked, ask } = useShelf();
  return (
    <div
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3 py-1.5"
      role="search"
    >
      <input
        type="search"
        aria-label="Search the shelf"
        placeholder="Name, folder or tag"
        className={`${input} w-[190px]`}
        value={asked.search ?? ''}
        onChange={(e) => ask({ search: e.target.value })}
      />
      <Choice
        label="Kind"
        value={asked.kind ?? any}
        options={[[any, 'every kind'], ...clipKinds.map((k) => [k, k] as const)]}
        set={(kind) => ask({ kind: kind === any ? undefined : kind })}
      />
      <Choice
        label="Meter"
        value={asked.meter ?? any}
        options={[[any, 'every meter'], ...meters.map((m) => [m, m] as const)]}
        set={(meter) => ask({ meter: meter === any ? undefined : meter })}
      />
      <Choice
        label="Played on"
        value={asked.drums ?? any}
        options={[
          [any, 'anything'],
          ['true', 'drums'],
          ['false', 'pitched instruments'],
        ]}
        set={(drums) => ask({ drums: drums === any ? undefined : drums })}
      />
      <Limits asked={asked} ask={ask} />
      <span className="ml-auto text-faint" aria-live="polite">
        {total !== undefined && count(total, 'clip')}
      </span>
    </div>
  );
}

/** Tempo and length, each between two numbers. */
const Limits = ({ asked, ask }: Pick<ReturnType<typeof useShelf.getState>, 'asked' | 'ask'>) => (
  <>
    <span className="flex items-center gap-1">
      Tempo
      <Limit label="Slowest tempo" value={asked.slowest} set={(slowest) => ask({ slowest })} />
      to
      <Limit label="Fastest tempo" value={asked.fastest} set={(fastest) => ask({ fastest })} />
    </span>
    <span className="flex items-center gap-1">
      Bars
      <Limit
        label="Fewest bars"
        value={asked.fewestBars}
        set={(fewestBars) => ask({ fewestBars })}
      />
      to
      <Limit label="Most bars" value={asked.mostBars} set={(mostBars) => ask({ mostBars })} />
    </span>
  </>
);

/** A number, or nothing. */
const Limit = ({
  label,
  value,
  set,
}: {
  label: string;
  value: number | undefined;
  set: (value: number | undefined) => void;
}) => (
  <input
    type="number"
    aria-label={label}
    className={`${input} num w-[54px] text-right`}
    min={0}
    value={value ?? ''}
    onChange={(e) =>
      set(e.target.value === '' ? undefined : Math.max(0, Math.round(Number(e.target.value))))
    }
  />
);
