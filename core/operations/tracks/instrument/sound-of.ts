import { inForceAt, setsUpAnew } from '../../../edit/excerpt/in-force.ts';
import { pickEvents, withInserted } from '../../../smf/event-builder.ts';
import {
  channelEvent,
  endTick,
  META,
  meta,
  payloadOf,
  SYSEX,
  type Events,
  type EventValue,
} from '../../../smf/events.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Song, Track } from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import type { Sound } from '../../../instruments/sounds.ts';

/** Programs and banks of a channel. */
export const choosesSound = ({ status, data1 }: Events, i: number, channel: number): boolean =>
  status[i] === (0xc0 | channel) ||
  (status[i] === (0xb0 | channel) && (data1[i] === 0 || data1[i] === 32));

/** The events that say a sound, its bank before its program. */
export const saying = (channel: number, tick: number, { program, bank }: Sound): EventValue[] => [
  ...(bank === null
    ? []
    : [
        channelEvent(tick, 0xb0 | channel, 0, bank >> 7),
        channelEvent(tick, 0xb0 | channel, 32, bank & 127),
      ]),
  channelEvent(tick, 0xc0 | channel, program),
];

/** Whether a part says this sound before its first note on a channel, and no other. */
export function plays(events: Events, channel: number, sound: Sound): boolean {
  const wanted = saying(channel, 0, sound).map((e) => `${e.status} ${e.data1} ${e.data2}`);
  const said: string[] = [];
  let sounds = false;
  for (let i = 0; i < events.count; i++) {
    sounds ||= events.status[i] === (0x90 | channel) && events.data2[i]! > 0;
    if (!choosesSound(events, i, channel)) continue;
    if (sounds) return false;
    said.push(`${events.status[i]} ${events.data1[i]} ${events.data2[i]}`);
  }
  return said.join() === wanted.join();
}

/** The sound of a channel as a tick begins, over all tracks that are heard there; undefined where none was chosen. */
export function soundAt(heard: readonly Track[], channel: number, tick: number): Sound | undefined {
  let bank: number | null = null;
  let sound: Sound | undefined;
  for (const { status, data1, data2 } of [
    ...inForceAt(heard, tick, [() => true]).values(),
  ].flat()) {
    if (status === (0xb0 | channel) && data1 === 0) bank = ((bank ?? 0) & 127) | (data2 << 7);
    else if (status === (0xb0 | channel) && data1 === 32) bank = ((bank ?? 0) & ~127) | data2;
    else if (status === (0xc0 | channel)) sound = { program: data1, bank };
  }
  return sound;
}

/** Where a part is told what it plays with: the beginning, or behind a reset that comes before its first note. */
export function startOf(resets: readonly number[], { events }: Track, channel: number): number {
  let first = Infinity;
  for (let i = 0; i < events.count && first === Infinity; i++)
    if (events.status[i] === (0x90 | channel) && events.data2[i]! > 0) first = events.atTick[i]!;
  return resets.findLast((tick) => tick <= first) ?? 0;
}

/** Ticks of the messages of a song that set an instrument up anew, ascending. */
export const resetsIn = (song: Song): number[] =>
  song.tracks
    .filter((t) => factsOf(t).exclusive)
    .flatMap(({ events }) =>
      [...events.atTick].filter(
        (_, i) => events.status[i] === SYSEX && setsUpAnew(payloadOf(events, i)),
      ),
    )
    .sort((a, b) => a - b);

/**
 * The events with a sound said at `at` and no other of the channel within a span; `behind` said where the
 * span ends. It stands behind names and system exclusive messages of its tick, and before everything else.
 */
export function withSound(
  events: Events,
  channel: number,
  {
    at,
    span,
    sound,
    behind,
  }: { at: number; span: TickSpan; sound: Sound; behind: Sound | undefined },
): { events: Events; gone: number } {
  const rows: number[] = [];
  for (let i = 0; i < events.count; i++) {
    const inSpan = events.atTick[i]! >= span.from && events.atTick[i]! < span.to;
    if (!inSpan || !choosesSound(events, i, channel)) rows.push(i);
  }
  const gone = events.count - rows.length;
  const kept = gone === 0 ? events : pickEvents(events, rows);
  const said = [
    ...(behind && span.to < endTick(kept) && !saysAt(kept, channel, span.to)
      ? [saying(channel, span.to, behind)]
      : []),
    saying(channel, at, sound),
  ];
  return { events: said.reduce(withSaid, kept), gone };
}

/** Whether a channel chooses a program on a tick. */
const saysAt = (events: Events, channel: number, tick: number): boolean =>
  events.status.some((s, i) => s === (0xc0 | channel) && events.atTick[i] === tick);

function withSaid(events: Events, said: readonly EventValue[]): Events {
  const { atTick } = said[0]!;
  const place = placeFor(events, atTick);
  const all = said.reduceRight((so, value) => withInserted(so, place, value), events);
  // A track that ended before it ends with it.
  if (endTick(all) < atTick) all.atTick[all.count - 1] = atTick;
  return all;
}

/** Row before which something that is to count on a tick is put. */
function placeFor({ atTick, status, data1, count }: Events, tick: number): number {
  let row = 0;
  while (row < count - 1 && atTick[row]! < tick) row++;
  for (let i = row; i < count - 1 && atTick[i] === tick; i++)
    if (status[i] === SYSEX || (status[i] === META && data1[i] !== meta.endOfTrack && i === row))
      row = i + 1;
  return row;
}
