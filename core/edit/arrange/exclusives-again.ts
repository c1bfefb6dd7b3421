import { SYSEX, SYSEX_PACKET, eventAt, payloadOf, type EventValue } from '../../smf/events.ts';
import type { Track } from '../../song/song.ts';
import { factsOf } from '../../song/track-facts.ts';
import { toHex } from '../../units/hex.ts';
import { setsUpAnew } from '../excerpt/in-force.ts';
import { joinsOf } from './joins.ts';
import type { Arrangement } from './stretches.ts';
import { headRows } from './values-at.ts';

/** A system exclusive message, in packets several events, by its first. */
interface Message {
  readonly atTick: number;
  readonly track: string;
  readonly events: readonly EventValue[];
  readonly bytes: string;
  readonly anew: boolean;
}

/**
 * Says at each join the system exclusive messages that were sent to a port before the place that comes
 * there and not before it now. Where one holds that was not sent before, those that were are sent over it;
 * what sets an instrument up anew is not. Gives how many hold that were not, and so may be heard, and the
 * joins (by their number) at which instruments are set up anew.
 */
export function exclusivesAgain(
  tracks: readonly Track[],
  arrangement: Arrangement,
  say: (track: string, event: EventValue) => void,
): { lasting: number; anew: ReadonlySet<number> } {
  const all = messagesIn(tracks);
  let lasting = 0;
  const anew = new Set<number>();
  if (all.length === 0) return { lasting, anew };
  const before = (tick: number): Message[] => counting(all.filter((m) => m.atTick < tick));
  joinsOf(arrangement).forEach((join, n) => {
    const wanted = before(join.from);
    const has = before(join.after ?? 0);
    const goesOn = has.every((m, i) => wanted[i]?.bytes === m.bytes);
    // What sets the instrument up anew between here and there makes all that was sent before count no more.
    const setUp = wanted[0]?.anew === true && wanted[0].atTick >= (join.after ?? 0);
    const over = goesOn ? wanted.slice(has.length) : setUp ? wanted : wanted.filter((m) => !m.anew);
    const said = new Set(wanted.map((m) => m.bytes));
    if (!goesOn && !setUp) lasting += has.filter((m) => !said.has(m.bytes)).length;
    if (over.some((m) => m.anew)) anew.add(n);
    for (const { track, events } of over)
      for (const event of events) say(track, { ...event, atTick: join.atTick });
  });
  return { lasting, anew };
}

/** Of messages in the order in which they are sent those that count: not before a new set-up, each once. */
function counting(sent: readonly Message[]): Message[] {
  const since = sent.slice(
    Math.max(
      0,
      sent.findLastIndex((m) => m.anew),
    ),
  );
  const last = new Map(since.map((m, n) => [m.bytes, n]));
  const counts = new Set(last.values());
  return since.filter((_, n) => counts.has(n));
}

function messagesIn(tracks: readonly Track[]): Message[] {
  return tracks
    .filter(({ events, ...rest }) => factsOf({ events, ...rest }).exclusive)
    .flatMap(({ id, events }) => {
      const found: { message: Message; packets: EventValue[] }[] = [];
      const head = headRows(events);
      for (let row = 0; row < events.count; row++) {
        const is = events.status[row]!;
        if (is !== SYSEX && is !== SYSEX_PACKET) continue;
        const event = eventAt(events, row);
        const open = found.at(-1);
        if (is === SYSEX_PACKET && open) {
          open.packets.push(event);
          continue;
        }
        const packets = [event];
        const anew = is === SYSEX && setsUpAnew(payloadOf(events, row));
        // What stands at the very beginning holds from there on, whatever comes first.
        const atTick = row < head ? -1 : event.atTick;
        found.push({
          message: { atTick, track: id, events: packets, bytes: '', anew },
          packets,
        });
      }
      return found.map(({ message, packets }) => ({
        ...message,
        bytes: packets.map((p) => toHex(p.payload)).join(' '),
      }));
    })
    .sort((a, b) => a.atTick - b.atTick);
}
