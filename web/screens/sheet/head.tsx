import { useMemo } from 'react';
import { ChevronDown, ChevronUp } from 'lucide-react';
import type { SongView } from '#contracts/songs.ts';
import { stripScale } from '../../drawing/bars.ts';
import { numbersOfBars } from './numbers-of-bars.ts';
import { useScope } from '../../state/scope.ts';
import type { Lane } from './lanes.ts';
import type { Sorting } from './sorting.ts';
import type { TrackActions } from './use-track-actions.ts';
import { CheckBox } from '../../fields/check.tsx';

interface Props {
  readonly song: SongView;
  readonly lanes: readonly Lane[];
  readonly sorting: Sorting;
  readonly sort: (sorting: Sorting) => void;
  readonly actions: TrackActions;
}

/** The sheet's head: what each column is; a press orders the rows by it. */
export function SheetHead({ song, lanes, sorting, sort, actions }: Props) {
  const all = actions.selected.size === song.tracks.length;
  const column = (by: Sorting['by'], name: string, className = '') => (
    <SortHead by={by} name={name} className={className} sorting={sorting} sort={sort} />
  );
  return (
    <thead className="sticky top-0 z-10 bg-paper text-left text-[11.5px] text-faint shadow-[inset_0_-1px_0_var(--color-line)]">
      <tr className="align-bottom">
        <th scope="col" className="w-[26px] pb-1 pl-2">
          <CheckBox
            label="Select all tracks"
            checked={all}
            set={() => (all ? actions.selectNone() : actions.selectAll())}
          />
        </th>
        {column('place', '#')}
        {column('name', 'Track')}
        {column('channel', 'Ch', 'text-right')}
        {column('notes', 'Notes', 'text-right')}
        {column('pitch', 'Pitch', 'px-1')}
        {column('velocity', 'Velocity', 'px-1')}
        {lanes.map((lane) => (
          <th key={lane.key} scope="col" className="w-[19px] p-0 pt-2 pb-1 font-normal">
            <span
              className="inline-block max-h-[100px] rotate-180 overflow-hidden text-[11px] leading-[19px] text-ellipsis whitespace-nowrap [writing-mode:vertical-rl]"
              title={lane.name}
            >
              {lane.name}
            </span>
          </th>
        ))}
        <th scope="col" className="relative pr-3 pb-1 pl-2 align-bottom font-normal">
          {song.timing.barsPerCell === 1 ? 'Bars' : `Bars, ${song.timing.barsPerCell} a stitch`}
          <BarsAlong song={song} />
        </th>
      </tr>
    </thead>
  );
}

/** Numbers of bars over what the tracks play, at the marks of the song where it has some, and the scope. */
function BarsAlong({ song: { timing } }: { song: SongView }) {
  const bars = useScope((s) => s.bars);
  const scale = useMemo(() => stripScale(timing), [timing]);
  const numbers = useMemo(() => {
    const marked = timing.markers.map((m) => scale.at(m.atTick));
    return numbersOfBars(timing.bars, marked).map((bar) => ({ at: scale.bar(bar), bar }));
  }, [timing, scale]);
  return (
    <div aria-hidden className="along-song relative h-[15px] text-left" data-testid="bars-along">
      {bars && (
        <div
          className="absolute inset-y-0 bg-amber-soft"
          style={{
            left: `${scale.bar(bars.from) * 100}%`,
            width: `${((bars.to - bars.from + 1) / timing.bars) * 100}%`,
          }}
        />
      )}
      {numbers.map(({ at, bar }) => (
        <span
          key={bar}
          className="num absolute bottom-0 border-l border-stitch pl-0.5 text-[10.5px] leading-[13px]"
          style={{ left: `${at * 100}%` }}
        >
          {bar}
        </span>
      ))}
    </div>
  );
}

function SortHead({
  by,
  name,
  className,
  sorting,
  sort,
}: {
  by: Sorting['by'];
  name: string;
  className: string;
  sorting: Sorting;
  sort: Props['sort'];
}) {
  const on = sorting.by === by;
  const Arrow = sorting.down ? ChevronDown : ChevronUp;
  return (
    <th
      scope="col"
      className={`pb-1 font-normal ${className}`}
      aria-sort={on ? (sorting.down ? 'ascending' : 'descending') : 'none'}
    >
      <button
        type="button"
        className={`inline-flex items-center rounded px-0.5 hover:text-ink ${on && by !== 'place' ? 'text-ink' : ''}`}
        onClick={() => sort({ by, down: on ? !sorting.down : true })}
      >
        {name}
        {on && (by !== 'place' || !sorting.down) && <Arrow size={12} aria-hidden />}
      </button>
    </th>
  );
}
