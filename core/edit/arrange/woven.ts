import { EventBuilder, withOwnPool } from '../../smf/event-builder.ts';
import { concatBytes } from '../../smf/chunks.ts';
import { META, meta, type Events, type EventValue } from '../../smf/events.ts';
import { placed, type Stretch } from './stretches.ts';

/** Where what is put into a track stands on its tick: see the values. */
export const order = {
  /** Ends of notes, and of what is held, before all else. */
  ends: 0,
  /** What is said again, before what plays there. */
  said: 1,
  /** Notes that are struck anew, behind that. */
  struck: 2,
  /** Behind all that stands there. */
  behind: 4,
} as const;
const ofTheTrack = 3;

/** An event that is put into a track. */
export interface Put {
  readonly event: EventValue;
  readonly order: (typeof order)[keyof typeof order];
}

/** Rows of a track that are taken over, where they lie now, but for some. */
export interface Run {
  readonly stretch: Stretch;
  /** First row, and the first behind them. */
  readonly rows: readonly [from: number, to: number];
  readonly without: ReadonlySet<number>;
}

/**
 * A track of rows of another in a new order, with what is put between them; its end of track at `end`, or
 * behind the last event. Runs are in the order of their new places. Costs what is taken over.
 */
export function woven(
  events: Events,
  runs: readonly Run[],
  puts: readonly Put[],
  end: number,
): Events {
  const own = puts.some((p) => p.event.payload.length > 0) ? withOwnPool(events) : events;
  const rows = runs.reduce((sum, { rows: [from, to] }) => sum + to - from, 0);
  const out = new EventBuilder(rows + puts.length + 1);
  const waiting = puts
    .map((put, n) => ({ put, n }))
    .sort(
      (a, b) => a.put.event.atTick - b.put.event.atTick || a.put.order - b.put.order || a.n - b.n,
    );
  const pool = new Added(own.pool.start.length, own.pool.bytes.length);
  let next = 0;
  const putUpTo = (tick: number): void => {
    for (; next < waiting.length; next++) {
      const { event, order: place } = waiting[next]!.put;
      if (event.atTick > tick || (event.atTick === tick && place > ofTheTrack)) return;
      out.add(event.atTick, event.status, event.data1, event.data2);
      out.payload[out.count - 1] = pool.add(event.payload);
    }
  };
  for (const {
    stretch,
    rows: [from, to],
    without,
  } of runs)
    for (let row = from; row < to; row++) {
      if (without.size > 0 && without.has(row)) continue;
      const tick = placed(stretch, own.atTick[row]!);
      if (next < waiting.length && waiting[next]!.put.event.atTick <= tick) putUpTo(tick);
      out.add(tick, own.status[row]!, own.data1[row]!, own.data2[row]!);
      out.payload[out.count - 1] = own.payload[row]!;
    }
  putUpTo(Infinity);
  const last = out.count === 0 ? 0 : out.atTick[out.count - 1]!;
  out.add(Math.max(end, last), META, meta.endOfTrack, 0);
  return { ...out.finish(own.pool.bytes), pool: pool.with(own.pool) };
}

/** Payloads that come to those of a pool. */
class Added {
  private readonly all: Uint8Array[] = [];
  private readonly first: number;
  private at: number;

  constructor(first: number, at: number) {
    this.first = first;
    this.at = at;
  }

  /** The number of a payload in the pool that comes of it. */
  add(bytes: Uint8Array): number {
    if (bytes.length === 0) return 0;
    this.all.push(bytes);
    return this.first + this.all.length - 1;
  }

  with(pool: Events['pool']): Events['pool'] {
    if (this.all.length === 0) return pool;
    const count = this.first + this.all.length;
    const [start, end] = [new Uint32Array(count), new Uint32Array(count)];
    start.set(pool.start);
    end.set(pool.end);
    this.all.forEach((bytes, n) => {
      start[this.first + n] = this.at;
      end[this.first + n] = this.at += bytes.length;
    });
    return { bytes: concatBytes([pool.bytes, ...this.all]), start, end };
  }
}
