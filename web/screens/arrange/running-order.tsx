import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { SongView } from '#contracts/songs.ts';
import type { Maps } from '#core/song/maps.ts';
import { problemOf } from '../../api/client.ts';
import { usePreview } from '../../api/preview.ts';
import { useStep } from '../../api/queries.ts';
import {
  joinsOf,
  keyOf,
  leftOut,
  lengthOf,
  moved,
  orderAsked,
  repeated,
  sameOrder,
  secondsOf,
  spanName,
  without,
  type Order,
} from '../../arrange/order.ts';
import { Button } from '../../components/button.tsx';
import { VerticalDrag } from '../../components/vertical-drag.tsx';
import { count, duration } from '../../components/text.ts';
import { Choice, asSaid } from '../../fields/choice.tsx';
import { useScope } from '../../state/scope.ts';
import { useDebounced } from '../../step/use-debounced.ts';
import { edges, type Edges } from '#core/edit/arrange/notes-over-edges.ts';
import { takeFocus, wantFocus } from './keep-focus.ts';
import { OrderPicture } from './order-picture.tsx';
import { OrderRow, type RowActs } from './order-row.tsx';

interface Props {
  readonly song: SongView;
  readonly maps: Maps;
  /** The song's spans as they are. */
  readonly all: Order;
  readonly from: 'sections' | 'markers' | 'repetition';
  readonly looking: boolean;
}

const sources = {
  sections: 'The sections of the song, and what lies between them.',
  markers: 'The song has no sections: from marker to marker.',
  repetition:
    'The song has neither sections nor markers: told from what repeats, with the same letter for what is alike.',
} as const;

/** The order as it would be, what is done to a row of it, and where the focus is. */
function useOrder(all: Order) {
  const [order, setOrder] = useState(all);
  const [focused, setFocused] = useState(all[0]?.id);
  const list = useRef<HTMLOListElement>(null);
  const span = useScope((s) => s.span);
  const section = useRef<HTMLElement>(null);
  // Where the song changes under it the list is another one: it has the focus, if the one before had.
  useLayoutEffect(() => {
    const its = section.current;
    if (takeFocus()) list.current?.querySelector<HTMLElement>('[data-span]')?.focus();
    return () => {
      if (its?.contains(document.activeElement)) wantFocus();
    };
  }, []);
  const same = sameOrder(order, all);
  const focusOn = (id: string | undefined): void => {
    if (id === undefined) return;
    setFocused(id);
    requestAnimationFrame(() =>
      list.current?.querySelector<HTMLElement>(`[data-span="${CSS.escape(id)}"]`)?.focus(),
    );
  };
  const acts: RowActs = {
    move: (id, by) => {
      setOrder(moved(order, id, by));
      focusOn(id);
    },
    repeat: (id) => {
      const next = repeated(order, id);
      setOrder(next);
      focusOn(next[order.findIndex((s) => s.id === id) + 1]?.id);
    },
    leaveOut: (id) => {
      const at = order.findIndex((s) => s.id === id);
      const next = without(order, id);
      setOrder(next);
      focusOn((next[at] ?? next.at(-1))?.id);
    },
    scope: ({ from: first, to }) => span({ from: first, to }),
    focus: (id, by) => focusOn(order[order.findIndex((s) => s.id === id) + by]?.id),
  };
  const dropped = (id: string, onto: string): void => {
    const [was, is] = [id, onto].map((one) => order.findIndex((s) => s.id === one));
    if (was !== -1 && is !== -1) acts.move(id, is! - was!);
  };
  return { order, setOrder, same, focused, list, section, acts, dropped };
}

/** The running order: a list that is put in another order, what would come of it, and the button that does it. */
export function RunningOrder({ song, maps, all, from, looking }: Props) {
  const { order, setOrder, same, focused, list, section, acts, dropped } = useOrder(all);
  const longest = Math.max(lengthOf(all), lengthOf(order), 1);
  const joins = joinsOf(order, song, maps);
  const missing = leftOut(all, order);
  return (
    <section
      ref={section}
      aria-label="Running order"
      aria-busy={looking}
      className="flex min-h-0 flex-col overflow-auto px-4 py-3"
    >
      <h2 className="text-[16px] font-semibold">Running order</h2>
      <p className="mb-3 text-[12.5px] text-faint">
        {looking ? 'Looking at what repeats …' : sources[from]}
      </p>
      <div className="mb-3 flex flex-col gap-1.5">
        <OrderPicture label="As it is" order={all} joins={[]} longest={longest} />
        {!same && order.length > 0 && (
          <OrderPicture label="As it would be" order={order} joins={joins} longest={longest} />
        )}
      </div>
      <VerticalDrag
        ids={order.map((s) => s.id)}
        keys="With the row in focus, press Alt and an arrow key to move it."
        dropped={dropped}
      >
        <ol ref={list} aria-label="Spans in their order" className="border-t border-line">
          {order.map((s, n) => (
            <OrderRow
              key={s.id}
              span={s}
              place={n + 1}
              seconds={secondsOf(s, maps)}
              keyName={keyOf(s, song, maps)}
              focusable={s.id === focused || (n === 0 && !order.some((o) => o.id === focused))}
              acts={acts}
            />
          ))}
        </ol>
      </VerticalDrag>
      <p className="mt-1.5 text-[12px] text-faint">
        Drag a row, or with it in focus: Alt ↑ ↓ moves it, + repeats it, Delete leaves it out, =
        makes its bars the scope.
      </p>
      <LeftOut
        spans={missing}
        back={(s) => setOrder([...order, { ...s, id: `${s.id}+back${order.length}` }])}
      />
      <TakeOrder song={song} maps={maps} order={order} all={all} back={() => setOrder(all)} />
    </section>
  );
}

/** What would come of an order, how notes go over its edges, and the button that takes it. */
function TakeOrder({
  song,
  maps,
  order,
  all,
  back,
}: Pick<Props, 'song' | 'maps' | 'all'> & { order: Order; back: () => void }) {
  const [how, setHow] = useState<Edges>('cut');
  const same = sameOrder(order, all);
  const request = useMemo(
    () =>
      same || order.length === 0
        ? undefined
        : { operation: 'bars.order', settings: { order: orderAsked(order), edges: how } },
    [same, order, how],
  );
  const step = useStep(song.id, song.revision);
  return (
    <div className="sticky -bottom-3 mt-3 border-t border-line bg-paper py-3">
      {same ? (
        <p className="text-faint">It is in this order already.</p>
      ) : order.length === 0 ? (
        <p className="text-faint">Nothing is left: put something back.</p>
      ) : (
        <WhatComes song={song} maps={maps} order={order} request={request} />
      )}
      <div className="mt-2 flex items-center gap-2">
        <Button
          kind="next"
          disabled={!request || step.isPending}
          onClick={() => {
            if (!request) return;
            wantFocus();
            step.mutate(request);
          }}
        >
          Put it in this order
        </Button>
        <Button disabled={same} onClick={back}>
          As it is
        </Button>
        <span className="ml-auto text-[12.5px]">
          <Choice label="Notes over an edge" value={how} options={asSaid(edges)} set={setHow} />
        </span>
      </div>
    </div>
  );
}

interface Coming extends Pick<Props, 'song' | 'maps'> {
  readonly order: Order;
  readonly request: { operation: string; settings: Record<string, unknown> } | undefined;
}

/** The new length, where bars meet that did not before, and what else should be known before it is done. */
function WhatComes({ song, maps, order, request }: Coming) {
  const preview = usePreview(song, useDebounced(request, 150));
  const joins = joinsOf(order, song, maps);
  const seconds = order.reduce((sum, s) => sum + secondsOf(s, maps), 0);
  return (
    <div aria-live="polite">
      <p>
        It would last {count(lengthOf(order), 'bar')}, {duration(seconds)}
        {joins.length > 0 && `, with ${count(joins.length, 'new join')}`}.
      </p>
      {joins.slice(0, 6).map((j) => (
        <p key={j.bar} className="text-[12px]">
          Bar <span className="num">{j.bar}</span>: {j.says}.
        </p>
      ))}
      {preview.isError && (
        <p role="alert" className="border-l-3 border-rust pl-2">
          {problemOf(preview.error).message}. {problemOf(preview.error).remedy}
        </p>
      )}
      {preview.data?.report.told?.map((say) => (
        <p key={say} className="text-[12px] text-ochre">
          {say}
        </p>
      ))}
    </div>
  );
}

/** What the order leaves out, each put back at its end by a press. */
const LeftOut = ({
  spans,
  back,
}: {
  spans: ReturnType<typeof leftOut>;
  back: (span: ReturnType<typeof leftOut>[number]) => void;
}) =>
  spans.length > 0 && (
    <p className="mt-2 flex flex-wrap items-center gap-1.5">
      Left out:
      {spans.map((s) => (
        <Button
          key={s.id}
          title={`Put ${spanName(s)} back at the end`}
          className="max-w-[220px]"
          onClick={() => back(s)}
        >
          <span className="truncate">{spanName(s)}</span>
        </Button>
      ))}
    </p>
  );
