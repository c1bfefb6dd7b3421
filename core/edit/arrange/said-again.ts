import { channelEvent } from '../../smf/events.ts';
import { laneKey, laneOf, parkedRows } from '../../song/lanes.ts';
import type { Track } from '../../song/song.ts';
import { byPort } from '../excerpt/in-force.ts';
import { exclusivesAgain } from './exclusives-again.ts';
import { joinsOf, ticksOf, type Join } from './joins.ts';
import { endOf, type Arrangement } from './stretches.ts';
import { coveredAt, linesOf, parkedLinesOf, type Line } from './values-at.ts';
import { ChannelValues, programSlot, slotsOf } from './channel-values.ts';
import { order, type Put } from './woven.ts';

/** What is said again at the joins, by the track that says it. */
export interface SaidAgain {
  readonly puts: ReadonlyMap<string, readonly Put[]>;
  /** Whether something else is said as the song begins, so that a row which sets up its channel need not be. */
  readonly isOverruled: (track: Track, row: number) => boolean;
  /** Values that were never said before where the music comes from, so that nobody knows them, and others are in force. */
  readonly unknown: number;
  /** Pedals that are lifted and pressed again. */
  readonly pedals: number;
  /** System exclusive messages that hold at a join and cannot be taken back there. */
  readonly lasting: number;
}

/** Channels (bits) of a track on which notes are struck anew at a join: before what is said there anyway. */
export type StruckOn = (track: Track, join: number) => number;

/**
 * What makes tracks sound at each join as they did at the place that comes there: of what channels are set
 * to, what differs; of pedals that are held, a lift and a press; of system exclusive, what was sent before.
 * Parked lanes likewise, each in its track.
 */
export function saidAgain(
  tracks: readonly Track[],
  arrangement: Arrangement,
  struckOn: StruckOn,
  ticksAreFine: boolean,
): SaidAgain {
  const said = new Said(arrangement, struckOn, ticksAreFine);
  for (const heard of byPort(tracks).values()) {
    const { lasting, anew } = exclusivesAgain(heard, arrangement, (track, event) =>
      said.put(track, { event, order: order.said }),
    );
    said.lasting += lasting;
    for (const line of linesOf(heard, said.ticks)) said.line(line, anew);
    for (const track of heard)
      for (const line of parkedLinesOf(track, said.ticks)) said.line(line, undefined);
  }
  return said;
}

function isParkedLane({ parked }: Track, status: number, data1: number): boolean {
  if (!parked?.length) return false;
  const lane = laneOf(status, data1);
  return lane !== undefined && parked.includes(laneKey(lane.channel, lane.what));
}

const saidBy = ({ id }: Track, channel: number, parked: boolean): string =>
  `${id} ${channel} ${parked}`;

class Said implements SaidAgain {
  readonly puts = new Map<string, Put[]>();
  readonly ticks: readonly number[];
  unknown = 0;
  pedals = 0;
  lasting = 0;
  private readonly joins: readonly Join[];
  private readonly ends: { readonly tick: number; readonly at: number } | undefined;
  private readonly place: ReadonlyMap<number, number>;
  private readonly over = new Map<string, ReadonlySet<number> | 'all'>();

  private readonly struckOn: StruckOn;
  private readonly ticksAreFine: boolean;

  constructor(arrangement: Arrangement, struckOn: StruckOn, ticksAreFine: boolean) {
    this.struckOn = struckOn;
    this.ticksAreFine = ticksAreFine;
    this.ticks = ticksOf(arrangement);
    this.place = new Map(this.ticks.map((tick, n) => [tick, n]));
    this.joins = joinsOf(arrangement);
    const last = arrangement.stretches.at(-1);
    this.ends = last && last.to < Infinity ? { tick: last.to, at: endOf(last) } : undefined;
  }

  isOverruled = (track: Track, row: number): boolean => {
    const { status, data1 } = track.events;
    const over = this.over.get(saidBy(track, status[row]! & 15, parkedRows(track)(row)));
    if (over === undefined || over === 'all') return over === 'all';
    const slots = slotsOf(status[row]!, data1[row]!);
    return slots.length > 0 && slots.every((slot) => over.has(slot));
  };

  put(track: string, put: Put): void {
    const its = this.puts.get(track);
    if (its) its.push(put);
    else this.puts.set(track, [put]);
  }

  /** `anew`: joins at which its instrument is set up anew; undefined of what is parked. */
  line(line: Line, anew: ReadonlySet<number> | undefined): void {
    const { channel, tracks } = line;
    // In a parked lane nobody would hear it.
    const homeOf = (status: number, data1: number): string | undefined =>
      anew ? tracks.find((t) => !isParkedLane(t, status, data1))?.id : tracks[0]!.id;
    const at = (tick: number) => line.at[this.place.get(tick)!]!;
    const say = (atTick: number, where: Put['order'], messages: readonly (readonly number[])[]) => {
      for (const [status, data1, data2] of messages) {
        const home = homeOf(status!, data1!);
        const event = channelEvent(atTick, status!, data1!, data2);
        if (home !== undefined) this.put(home, { event, order: where });
      }
    };
    this.joins.forEach((join, n) => {
      const wanted = at(join.from);
      const strikes = tracks.some((t) => this.struckOn(t, n) & (1 << channel));
      const covered = strikes ? new Set<number>() : coveredAt(line, join.from);
      const begins = join.after === undefined && join.atTick === 0 && join.from > 0;
      // What several tracks set up together at the beginning, the first says for all: others would speak
      // behind its first note.
      const forAll = begins && tracks.length > 1;
      let has = anew?.has(n) ? new ChannelValues() : at(join.after ?? 0);
      if (forAll) has = ChannelValues.unknown;
      const held = join.after === undefined || !anew ? [] : has.pedalsDown();
      if (held.length > 0) {
        // A pedal that is pressed again on the join goes up a tick before it, behind what begins there; where
        // a tick is long, on the join itself.
        const again = held.some((pedal) => wanted.holds(pedal));
        const early = this.ticksAreFine && join.ends === join.atTick && again;
        const lifted = has.lifted(channel, held);
        say(join.ends - Number(early), early ? order.behind : order.said, lifted.messages);
        this.pedals += held.filter((pedal) => wanted.holds(pedal)).length;
        has = lifted.values;
      }
      const { messages, unknown } = has.upTo(wanted, channel, covered);
      say(join.atTick, order.said, messages);
      this.unknown += unknown;
      if (!begins) return;
      const over = new Set([...covered, ...messages.flatMap(([is, what]) => slotsOf(is!, what!))]);
      // A bank that is chosen for a program has to stand before it.
      if (!over.has(programSlot)) for (const bank of [0, 32]) over.delete(bank);
      for (const track of tracks)
        this.over.set(saidBy(track, channel, anew === undefined), forAll ? 'all' : over);
    });
    if (this.ends && anew) say(this.ends.at, order.said, at(this.ends.tick).settling(channel));
  }
}
