import { sameEvents } from '../smf/compare.ts';
import { channelsOf, findTrack, trackLabel, type Song, type Track } from '../song/song.ts';
import { noteCount } from '../song/notes.ts';
import { difference } from './difference.ts';

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
  /**
   * `same bytes`: the very bytes received; `same events`: the same events, written anew; `changed`: see the
   * counts; `new`: not in what was received; `part`: a part of the song.
   */
  readonly state: 'same bytes' | 'same events' | 'changed' | 'new' | 'part';
  readonly added: Readonly<Record<string, number>>;
  readonly removed: Readonly<Record<string, number>>;
}

export function accountFor(received: Song, song: Song): Account {
  const left = new Set(song.tracks.map((t) => t.id));
  const before = received.tracks.filter((t) => left.has(t.id)).map((t) => t.id);
  const after = song.tracks.filter((t) => findTrack(received, t.id)).map((t) => t.id);
  return {
    tracks: song.tracks.map((track) => trackAccount(song, track, findTrack(received, track.id))),
    removed: received.tracks
      .filter((t) => !left.has(t.id))
      .map((t) => ({ name: trackLabel(received, t), events: t.events.count })),
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
    notes: noteCount(events),
    state:
      before === undefined
        ? 'new'
        : same
          ? track.body && before.body
            ? 'same bytes'
            : 'same events'
          : 'changed',
    ...(before && !same ? difference(before.events, events) : { added: {}, removed: {} }),
  };
}

/** What leaves of a part of a song: its tracks, which are held against the song by the proof. */
export const accountOfPart = (part: Song): Account => ({
  tracks: part.tracks.map((track) => ({
    id: track.id,
    name: trackLabel(part, track),
    channels: channelsOf(track.events),
    events: track.events.count,
    notes: noteCount(track.events),
    state: 'part',
    added: {},
    removed: {},
  })),
  removed: [],
  reordered: false,
});
