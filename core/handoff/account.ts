import { payloadOf, type Events } from '../smf/events.ts';
import { sameEvent, sameEvents } from '../smf/compare.ts';
import { kindOf } from '../operations/shared/event-kinds.ts';
import { channelsOf, findTrack, trackLabel, type Song, type Track } from '../song/song.ts';
import { notesOf } from '../song/notes.ts';

/** What leaves, track by track, held against what was received. */
export interface Account {
  readonly tracks: readonly TrackAccount[];
  /** Received tracks that do not leave. */
  readonly removed: readonly { readonly name: string; readonly events: number }[];
  /** Tracks that were there before stand in another order. */
  readonly reordered: boolean;
}

export interface TrackAccount {
  readonly id: string;
  readonly name: string;
  readonly channels: readonly number[];
  readonly events: number;
  readonly notes: number;
  /** `same bytes`: the very bytes received; `same events`: the same events, written anew; `changed`: see the counts; `new`: not in what was received. */
  readonly state: 'same bytes' | 'same events' | 'changed' | 'new';
  readonly added: Readonly<Record<string, number>>;
  readonly removed: Readonly<Record<string, number>>;
}

export function accountFor(received: Song, song: Song): Account {
  const left = new Set(song.tracks.map((t) => t.id));
  const before = received.tracks.filter((t) => left.has(t.id)).map((t) => t.id);
  const after = song.tracks.filter((t) => findTrack(received, t.id)).map((t) => t.id);
  return {
    tracks: song.tracks.map((track) => trackAccount(song, track, findTrack(received, track.id))),
    removed: received.tracks.filter((t) => !left.has(t.id)).map((t) => ({ name: trackLabel(received, t), events: t.events.count })),
    reordered: before.some((id, i) => id !== after[i]),
  };
}

function trackAccount(song: Song, track: Track, before: Track | undefined): TrackAccount {
  const { events } = track;
  const same = before !== undefined && sameEvents(before.events, events);
  return {
    id: track.id,
    name: trackLabel(song, track),
    channels: channelsOf(events),
    events: events.count,
    notes: notesOf(events).count,
    state: before === undefined ? 'new' : same ? (track.body && before.body ? 'same bytes' : 'same events') : 'changed',
    ...(before && !same ? difference(before.events, events) : { added: {}, removed: {} }),
  };
}

/** Events of `after` that `before` lacks and the reverse, by kind, each event counted as often as it stands. */
function difference(before: Events, after: Events): Pick<TrackAccount, 'added' | 'removed'> {
  const { from, behind } = alike(before, after);
  const balance = new Map<string, { kind: string; times: number }>();
  const weigh = (events: Events, by: number): void => {
    for (let i = from; i < events.count - behind; i++) {
      const text = `${events.atTick[i]} ${events.status[i]} ${events.data1[i]} ${events.data2[i]} ${events.payload[i] ? payloadOf(events, i).join() : ''}`;
      const entry = balance.get(text) ?? { kind: kindOf(events, i) ?? 'end', times: 0 };
      entry.times += by;
      balance.set(text, entry);
    }
  };
  weigh(after, 1);
  weigh(before, -1);
  const added: Record<string, number> = {};
  const removed: Record<string, number> = {};
  for (const { kind, times } of balance.values()) {
    if (times > 0) added[kind] = (added[kind] ?? 0) + times;
    if (times < 0) removed[kind] = (removed[kind] ?? 0) - times;
  }
  return { added, removed };
}

/** How many events at the beginning and at the end are the same in both: most of a track, after most steps. */
function alike(a: Events, b: Events): { from: number; behind: number } {
  const least = Math.min(a.count, b.count);
  let from = 0;
  while (from < least && sameEvent(a, from, b, from)) from++;
  let behind = 0;
  while (behind < least - from && sameEvent(a, a.count - 1 - behind, b, b.count - 1 - behind)) behind++;
  return { from, behind };
}
