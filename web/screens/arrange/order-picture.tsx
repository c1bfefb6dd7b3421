import {
  barsIn,
  lengthOf,
  spanName,
  startsOf,
  type Join,
  type Order,
} from '../../arrange/order.ts';
import { count } from '../../components/text.ts';

/** An order of spans as straps of cloth, each as wide as it is long; where bars meet that did not before, a stitch. */
export function OrderPicture({
  label,
  order,
  joins,
  longest,
}: {
  label: string;
  order: Order;
  joins: readonly Join[];
  /** Bars of the longer of the orders that are shown above each other. */
  longest: number;
}) {
  const bars = lengthOf(order);
  const starts = startsOf(order);
  const joined = new Map(joins.map((j) => [j.bar, j.says]));
  return (
    <div className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-2">
      <span className="text-[12px] text-faint">
        {label}
        <span className="num block">{count(bars, 'bar')}</span>
      </span>
      <div className="relative flex h-[30px]" style={{ width: `${(bars / longest) * 100}%` }}>
        {order.map((span, n) => (
          <div
            key={span.id}
            className={`relative min-w-0 overflow-hidden border-y border-line text-[11.5px] ${span.name ? 'bg-sheet' : 'bg-paper text-faint'}`}
            style={{ width: `${(barsIn(span) / bars) * 100}%` }}
            title={`${spanName(span)}: from bar ${starts[n]}${joined.has(starts[n]!) ? ` (${joined.get(starts[n]!)})` : ''}`}
          >
            <span
              className={`absolute inset-y-0 left-0 border-l-2 ${n > 0 && joined.has(starts[n]!) ? 'border-dashed border-amber' : 'border-stitch'}`}
            />
            <span className="block truncate px-1.5 leading-[13px]">{spanName(span)}</span>
            <span className="num block truncate px-1.5 text-[10.5px] leading-[13px] text-faint">
              {starts[n]}
            </span>
          </div>
        ))}
      </div>
    </div>
  );
}
