import { z } from 'zod';
import { ok } from '../../problems/problems.ts';
import { tracksIn } from '../../song/scope.ts';
import { trackId, trackLabel, withEvents, type Song, type Track } from '../../song/song.ts';
import { countKinds } from '../shared/event-kinds.ts';
import { defineOperation, type Change, type Report } from '../operation.ts';
import { splitByChannel } from './split.ts';

export const tracksSplitByChannel = defineOperation({
  id: 'tracks.split-by-channel',
  version: 1,
  title: 'Split by channel',
  summary: 'Gives each channel of a track a track of its own; what belongs to no channel stays in the track.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const wanted = new Set(inScope.value);
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    let nextTrack = song.nextTrack;
    const tracks = song.tracks.flatMap((track) => {
      if (!wanted.has(track)) return [track];
      const parts = splitByChannel(track.events);
      const name = trackLabel(song, track);
      if (parts.length === 1) {
        skipped.push({ track: track.id, name, why: 'It plays on one channel at most.' });
        return [track];
      }
      changes.push({ track: track.id, name, did: 'changed', counts: {}, detail: `${parts.length - 1} channels taken out` });
      return parts.map((events, index): Track => (index === 0 ? withEvents(track, events) : added(changes, withEvents({ ...track, id: trackId(nextTrack++) }, events))));
    });
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    return ok({ song: { ...song, tracks, nextTrack, alienChunks: shifted(song, tracks) }, report: { changes, skipped } });
  },
  describe(_, { changes }) {
    const parts = changes.filter((c) => c.did === 'added').length;
    return `Gave each of ${parts} channels its own track`;
  },
  examples: [{ says: 'Split every track that plays on several channels', settings: {} }],
});

function added(changes: Change[], track: Track): Track {
  const channel = (track.events.status.find((s) => s < 0xf0) ?? 0) & 0x0f;
  changes.push({ track: track.id, name: `channel ${channel + 1}`, did: 'added', counts: countKinds(track.events) });
  return track;
}

/** Alien chunks keep standing before the track they stood before. */
function shifted(song: Song, tracks: readonly Track[]): Song['alienChunks'] {
  const places = new Map(tracks.map((t, place) => [t.id, place]));
  return song.alienChunks.map((chunk) => ({ ...chunk, beforeTrack: places.get(song.tracks[chunk.beforeTrack]?.id ?? '') ?? tracks.length }));
}
