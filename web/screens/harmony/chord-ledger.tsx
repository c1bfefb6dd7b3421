import { keyNow } from '../../keys/shown.ts';
import { useVirtualizer, type VirtualItem } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import type { ToldChordView, ToldKeyView } from '#contracts/harmony.ts';
import type { SongView } from '#contracts/songs.ts';
import { useMaps } from '../../api/maps.ts';
import { Button } from '../../components/button.tsx';
import { Check } from '../../fields/check.tsx';
import { isWhole, lineOf, type ShownLine } from '../../harmony/line.ts';
import { LedgerRow, rowHeight } from './ledger-row.tsx';
import { useLedgerKeys } from './use-ledger-keys.ts';

interface Props {
  readonly song: SongView;
  /** Undefined until they are known. */
  readonly told: readonly ToldChordView[] | undefined;
  readonly keys: readonly ToldKeyView[];
}

/** Browsers draw no taller than this. */
const mostRows = 1_000_000;

/** Bars as rows: what is told of each, and what is written in it, which is typed over. */
export function ChordLedger({ song, told, keys }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const maps = useMaps(song);
  const line = useMemo(() => lineOf(song), [song]);
  const rows = Math.min(song.timing.bars, mostRows);
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 10,
  });
  const hand = useLedgerKeys({
    song,
    line,
    meters: maps.meters,
    rows,
    scrollTo: (n) => virtual.scrollToIndex(n),
    focusList: () => scroller.current?.focus({ preventScroll: true }),
  });
  return (
    <>
      <LedgerHead
        line={line}
        // Before anything is told there is nothing to take.
        takeTold={
          told && told.length > 0 && !hand.busy
            ? () => hand.takeTold({ from: 1, to: rows })
            : undefined
        }
        send={hand.send}
      />
      <div
        ref={scroller}
        data-begin
        tabIndex={0}
        role="listbox"
        aria-label="Bars with their chords"
        aria-multiselectable
        aria-activedescendant={`bar-${hand.focus}`}
        className="keeps-height min-h-0 flex-1 overflow-auto"
        onKeyDown={hand.onKeyDown}
        onCopy={hand.onCopy}
        onPaste={hand.onPaste}
      >
        <LedgerRows
          song={song}
          told={told ?? []}
          keys={keys}
          line={line}
          hand={hand}
          height={virtual.getTotalSize()}
          items={virtual.getVirtualItems()}
        />
      </div>
      <LedgerKeys />
    </>
  );
}

/** The bars in view. A chord is dragged from one onto another. */
function LedgerRows({
  song,
  told,
  keys,
  line,
  hand,
  height,
  items,
}: Props & {
  readonly told: readonly ToldChordView[];
  readonly line: ShownLine;
  readonly hand: ReturnType<typeof useLedgerKeys>;
  readonly height: number;
  readonly items: readonly VirtualItem[];
}) {
  const { meters } = useMaps(song);
  const toldIn = useMemo(() => byBar(told), [told]);
  const regions = useMemo(() => new Map(keys.map((k) => [k.fromBar, k])), [keys]);
  const [dragged, drag] = useState<number>();
  const { focus, chosen, editing } = hand;
  return (
    <div className="relative" style={{ height: height }}>
      {items.map(({ key, index, start }) => {
        const bar = index + 1;
        return (
          <LedgerRow
            key={key}
            bar={bar}
            top={start}
            song={song}
            line={line}
            meters={meters}
            told={toldIn.get(bar) ?? []}
            region={regions.get(bar)}
            focused={bar === focus}
            chosen={bar >= chosen.from && bar <= chosen.to}
            editing={bar === focus ? editing : undefined}
            type={hand.type}
            done={hand.done}
            press={(extend) => hand.go(bar, extend)}
            edit={() => hand.begin(bar)}
            drag={() => drag(bar)}
            drop={(copies) => {
              if (dragged !== undefined) hand.dropped(dragged, bar, copies);
              drag(undefined);
            }}
          />
        );
      })}
    </div>
  );
}

/** What stands in the columns, and what can be done with the chord line as a whole. */
function LedgerHead({
  line,
  takeTold,
  send,
}: {
  readonly line: ShownLine;
  readonly takeTold: (() => void) | undefined;
  readonly send: (sent: boolean) => void;
}) {
  return (
    <div className="grid grid-cols-[150px_minmax(0,1fr)_minmax(0,1fr)_130px] items-center gap-3 border-b border-line px-4 py-1 text-[12px] text-faint">
      <span>Bar</span>
      <span>Told from what sounds</span>
      <span className="flex items-center gap-2">
        Chord line
        {line.points.length === 0 && (
          <Button
            className="!py-0 text-[12px]"
            disabled={!takeTold}
            title="Writes what is told, of all bars, into the chord line"
            onClick={takeTold}
          >
            Take what is told
          </Button>
        )}
        {line.points.length > 0 && isWhole(line) && (
          <span title="As texts that any program shows; else it is kept here only">
            <Check checked={line.sent} set={send}>
              sent
            </Check>
          </span>
        )}
      </span>
      <span>Key</span>
    </div>
  );
}

const LedgerKeys = () => (
  <p className="border-t border-line px-4 py-1.5 text-[12px] text-faint">
    Type a chord, or several bars as Dm7 G7 | Cmaj9. Enter keeps it, Shift with arrows takes several
    bars, {keyNow('harmony-take')} takes what is told, {keyNow('harmony-empty')} empties, Ctrl C and
    Ctrl V copy, {keyNow('harmony-up')} and {keyNow('harmony-down')} move, {keyNow('harmony-scope')}{' '}
    makes them the scope.
  </p>
);

/** Chords by the bars in which they begin. */
function byBar(told: readonly ToldChordView[]): ReadonlyMap<number, ToldChordView[]> {
  const found = new Map<number, ToldChordView[]>();
  for (const chord of told) {
    const its = found.get(chord.bar);
    if (its) its.push(chord);
    else found.set(chord.bar, [chord]);
  }
  return found;
}
