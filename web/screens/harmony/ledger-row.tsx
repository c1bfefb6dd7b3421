import { useEffect, useRef } from 'react';
import type { ToldChordView, ToldKeyView } from '#contracts/harmony.ts';
import type { SongView } from '#contracts/songs.ts';
import { shownChord } from '#core/harmony/shown.ts';
import { barTick, type MeterMap } from '#core/timing/meter-map.ts';
import { inForce, typedIn, unreadable, type ShownLine } from '../../harmony/line.ts';
import { percent } from './percent.ts';

export const rowHeight = 27;

interface Props {
  readonly bar: number;
  readonly top: number;
  readonly song: SongView;
  readonly line: ShownLine;
  readonly meters: MeterMap;
  readonly told: readonly ToldChordView[];
  /** Of the key that begins with the bar. */
  readonly region: ToldKeyView | undefined;
  readonly focused: boolean;
  readonly chosen: boolean;
  /** What is typed into it now. */
  readonly editing: string | undefined;
  readonly type: (typed: string) => void;
  readonly done: (how: 'keep' | 'leave' | 'away') => void;
  readonly press: (extend: boolean) => void;
  readonly edit: () => void;
  readonly drag: () => void;
  readonly drop: (copies: boolean) => void;
}

/** One bar: its number, what is told of it, what is written in it, and the key that begins with it. */
export function LedgerRow(props: Props) {
  const { bar, top, song, told, region, focused, chosen, press, edit } = props;
  const begins = beginsIn(song, props.meters, bar);
  return (
    <div
      id={`bar-${bar}`}
      role="option"
      aria-selected={chosen}
      className={`absolute inset-x-0 grid cursor-default grid-cols-[150px_minmax(0,1fr)_minmax(0,1fr)_130px] items-center gap-3 border-b border-line/50 px-4 select-none ${chosen ? 'bg-amber-soft' : 'hover:bg-sheet'} ${focused ? 'outline-2 -outline-offset-2 outline-amber' : ''}`}
      style={{ top, height: rowHeight }}
      onPointerDown={(e) => press(e.shiftKey)}
      onDoubleClick={edit}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        props.drop(e.ctrlKey || e.metaKey || e.altKey);
      }}
    >
      <span className="flex min-w-0 gap-3">
        <span className="num w-8 shrink-0 text-faint">{bar}</span>
        <span className="truncate text-[12.5px]">{begins}</span>
      </span>
      <span className="flex min-w-0 gap-2.5 truncate">
        {told.map((chord) => (
          <Told key={chord.atTick} chord={chord} />
        ))}
      </span>
      <Written {...props} />
      <span className="truncate text-[12.5px] text-faint" title={region && keyTitle(region)}>
        {region && (
          <>
            <span className="text-ink">{region.name}</span> {percent(region.sure)}
          </>
        )}
      </span>
    </div>
  );
}

/** The section or marker with which a bar begins. */
function beginsIn({ timing }: SongView, meters: MeterMap, bar: number): string | undefined {
  const tick = barTick(meters, bar);
  return (
    timing.sections.find((s) => s.fromTick === tick)?.name ??
    timing.markers.find((m) => m.atTick === tick)?.text
  );
}

const keyTitle = ({ section, others }: ToldKeyView): string =>
  [section, ...others.map((o) => `or ${o.name} ${percent(o.sure)}`)].filter(Boolean).join(', ');

/** Below this a chord is told with a question mark. */
const unsure = 0.4;

function Told({ chord: { name, notes, sure, others } }: { chord: ToldChordView }) {
  const says = [
    `${shownChord(name)}, ${percent(sure)} sure: ${shownChord(notes.join(' '))}`,
    ...others.map((o) => `or ${shownChord(o.name)} ${percent(o.sure)}`),
  ].join('\n');
  return (
    <span title={says} className={sure < unsure ? 'text-faint' : ''}>
      {shownChord(name)}
      {sure < unsure && <span aria-label="unsure">?</span>}
    </span>
  );
}

/** What is written in a bar, or the field in which it is typed. */
function Written({ bar, line, meters, editing, type, done, drag }: Props) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (editing !== undefined) field.current?.focus();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when typing begins
  }, [editing === undefined]);
  if (editing !== undefined) {
    const wrong = unreadable(editing);
    return (
      <input
        ref={field}
        aria-label={`Chords of bar ${bar}`}
        aria-invalid={wrong !== undefined}
        title={wrong === undefined ? undefined : `“${wrong}” is no chord`}
        className="min-w-0 rounded border border-amber bg-paper px-1.5 aria-invalid:border-rust"
        value={editing}
        spellCheck={false}
        autoComplete="off"
        onChange={(e) => type(e.target.value)}
        onBlur={() => done('away')}
        onPointerDown={(e) => e.stopPropagation()}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') done('keep');
          else if (e.key === 'Escape') done('leave');
          else return;
          e.preventDefault();
        }}
      />
    );
  }
  const typed = typedIn(line, meters, bar);
  const goesOn = typed === '' ? inForce(line.points, barTick(meters, bar))?.text : undefined;
  const kept = line.points.some(
    (p) => !p.travels && p.atTick >= barTick(meters, bar) && p.atTick < barTick(meters, bar + 1),
  );
  // What came back from elsewhere may be no chord any more: it stays as it is, and no step uses it.
  const wrong = unreadable(typed);
  const title =
    wrong === undefined
      ? 'Drag it to another bar; with Ctrl it is copied'
      : `“${wrong}” is no chord: type one over it`;
  return (
    <span
      draggable={typed !== ''}
      title={typed === '' ? undefined : title}
      className={`min-w-0 truncate rounded px-1.5 ${typed === '' ? 'text-faint' : 'bg-paper font-medium'} ${wrong === undefined ? '' : 'text-rust underline decoration-dotted'}`}
      onDragStart={(e) => {
        e.dataTransfer.setData('text/plain', typed);
        e.dataTransfer.effectAllowed = 'copyMove';
        drag();
      }}
    >
      {typed === '' ? (goesOn === undefined ? '' : '·') : shownChord(typed)}
      {kept && <span className="ml-2 text-[11px] text-faint">not sent</span>}
    </span>
  );
}
