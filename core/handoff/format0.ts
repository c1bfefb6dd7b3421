import { concatBytes } from '../smf/chunks.ts';
import { META, isMeta, meta, payloadOf, type Events } from '../smf/events.ts';
import { sameEvents } from '../smf/compare.ts';
import { EventBuilder, pickEvents, withOwnPool } from '../smf/event-builder.ts';
import { bridgedAgain } from '../smf/bridges.ts';
import { mergeEvents } from '../smf/merge.ts';
import type { SmfTrack } from '../smf/smf.ts';
import { portWords } from '../song/ports.ts';
import { noteCount } from '../song/notes.ts';
import { channelsOf, trackLabel, type Song } from '../song/song.ts';
import { channelNumber } from '../units/units.ts';

/** A track as it is written: without what only the song knows of it. */
export const smfTrack = ({ events, body }: SmfTrack): SmfTrack =>
  body ? { events, body } : { events };

/**
 * What may be said of channels in a track that holds several: names of instruments, and the prefixes that
 * say whose they are.
 */
export interface Sayable {
  readonly names: boolean;
  readonly prefixes: boolean;
  /** The name of a track without a channel is a text. */
  readonly texts: boolean;
}

/**
 * All tracks of a song as one track, as that of a format 0 file. Where the song came in as one track,
 * events of one tick stand in the order they had there; if nothing else changed, the very bytes leave.
 */
export function mergedTrack(
  song: Song,
  asRead: Song,
  sayable: Sayable = { names: true, prefixes: true, texts: true },
  called = 'A format 0 file',
): { track: SmfTrack; notes: string[] } {
  if (song.tracks.length === 1) return { track: smfTrack(song.tracks[0]!), notes: [] };
  let named = 0;
  const parts = song.tracks.map((track, index) => {
    if (index === 0) return track.events;
    const { events, names } = withoutTrackNames(track.events, sayable);
    named += names;
    return events;
  });
  const became = sayable.names ? 'written as instrument names of their channels' : 'left out';
  const names = named === 1 ? 'track name was' : 'track names were';
  const notes = named === 0 ? [] : [`${named} ${names} ${became}: one track has one name.`];
  // Among the events of other tracks most gaps have closed; merging makes none longer.
  const merged = bridgedAgain(mergeEvents(parts));
  const whole = asRead.format !== 1 && asRead.tracks.length === 1 ? asRead.tracks[0]! : undefined;
  const ports = portWords(song.tracks);
  const told = [...(ports ? [`${called} has one port: ${ports}.`] : []), ...comingBackAsOne(song)];
  if (!whole) return { track: { events: merged }, notes: [...notes, ...told] };
  const events = inReceivedOrder(merged, whole.events);
  return sameEvents(events, whole.events)
    ? { track: whole, notes }
    : { track: { events }, notes: [...notes, ...told] };
}

/** Sentences name so many groups of parts. */
const mostNamed = 8;

/** Parts of one channel, which nobody can tell apart again where all is in one track. */
function comingBackAsOne(song: Song): string[] {
  const on = new Map<number, string[]>();
  for (const track of song.tracks)
    if (noteCount(track.events) > 0)
      for (const channel of channelsOf(track.events))
        on.set(channel, [...(on.get(channel) ?? []), trackLabel(song, track)]);
  const shared = [...on].filter(([, names]) => names.length > 1).sort(([a], [b]) => a - b);
  if (shared.length === 0) return [];
  const said = shared
    .slice(0, mostNamed)
    .map(([channel, names]) => `${names.join(', ')} (channel ${channelNumber(channel)})`);
  const more = shared.length > mostNamed ? ` and ${shared.length - mostNamed} more` : '';
  return [
    `Split by channel again, these come back as one part: ${said.join('; ')}${more}. Give them channels of their own to keep them apart.`,
  ];
}

/**
 * Track names become the instrument name of the track's channel, behind a channel prefix (SMF 1.0); a text
 * where it has no channel.
 */
function withoutTrackNames(
  whole: Events,
  { names: said, prefixes, texts }: Sayable,
): { events: Events; names: number } {
  let names = 0;
  for (let i = 0; i < whole.count; i++) if (isMeta(whole, i, meta.trackName)) names++;
  if (names === 0) return { events: whole, names };
  const events = withOwnPool(whole);
  const status = events.status.find((s) => s < 0xf0);
  const { pool } = events;
  // The prefix's one byte, the channel, stands behind the payloads that are there.
  const bytes = concatBytes([pool.bytes, Uint8Array.of((status ?? 0) & 0x0f)]);
  const out = new EventBuilder(events.count + names);
  for (let i = 0; i < events.count; i++) {
    const tick = events.atTick[i]!;
    const n = events.payload[i]!;
    const isName = isMeta(events, i, meta.trackName);
    if (isName && !(status === undefined ? texts : said)) continue;
    if (isName && prefixes && status !== undefined)
      out.addWithPayload(tick, META, meta.channelPrefix, bytes.length - 1, bytes.length);
    const type = !isName
      ? events.data1[i]!
      : status === undefined
        ? meta.text
        : meta.instrumentName;
    if (n === 0) out.add(tick, events.status[i]!, type, events.data2[i]!);
    else out.addWithPayload(tick, events.status[i]!, type, pool.start[n]!, pool.end[n]!);
  }
  return { events: out.finish(bytes), names };
}

const keyOf = (e: Events, i: number): string =>
  `${e.status[i]} ${e.data1[i]} ${e.data2[i]} ${e.payload[i] ? payloadOf(e, i).join() : ''}`;

/** First row behind the events that share the tick of row `from`. */
function tickEnd(e: Events, from: number): number {
  let to = from + 1;
  while (to < e.count && e.atTick[to] === e.atTick[from]) to++;
  return to;
}

/** Events of one tick in the order `whole` has them; what is not in `whole` stays behind the event it followed. */
function inReceivedOrder(merged: Events, whole: Events): Events {
  const rows = new Uint32Array(merged.count);
  let w = 0;
  for (let from = 0; from < merged.count;) {
    const to = tickEnd(merged, from);
    while (w < whole.count && whole.atTick[w]! < merged.atTick[from]!) w++;
    const group = Array.from({ length: to - from }, (_, n) => from + n);
    const sorted =
      w < whole.count && whole.atTick[w] === merged.atTick[from] && group.length > 1
        ? sortedLike(group, merged, whole, w)
        : group;
    rows.set(sorted, from);
    from = to;
  }
  return pickEvents(merged, rows);
}

function sortedLike(
  group: readonly number[],
  merged: Events,
  whole: Events,
  from: number,
): number[] {
  const places = new Map<string, number[]>();
  for (let i = from, to = tickEnd(whole, from); i < to; i++) {
    const key = keyOf(whole, i);
    const list = places.get(key);
    if (list) list.push(i);
    else places.set(key, [i]);
  }
  let before = -1;
  const placed = group.map((row) => ({
    row,
    place: (before = places.get(keyOf(merged, row))?.shift() ?? before),
  }));
  return placed.sort((a, b) => a.place - b.place).map((p) => p.row);
}
