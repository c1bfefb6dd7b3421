import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { tracksIn } from '../../../song/scope.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import type { Events } from '../../../smf/events.ts';
import { onDeviceOf } from '../../../song/ports.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { trackId, trackLabel, withEvents, type Song, type Track } from '../../../song/song.ts';
import { counted } from '../../../edit/rewrite.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';
import { splitByChannel } from './split.ts';

export const tracksSplitByChannel = defineOperation({
  id: 'tracks.split-by-channel',
  version: 1,
  title: 'Split by channel',
  summary:
    'Gives each channel of a track a track of its own; what belongs to no channel stays in the track.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    names: z.boolean().default(false).meta({
      title: 'Name them',
      description:
        'After the track they come from, with their channel. In a file of format 0 its one name is the song’s.',
    }),
  }),
  apply(song, { names }, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const wanted = new Set(inScope.value);
    const changes: Change[] = [];
    const skipped: Report['skipped'][number][] = [];
    let nextTrack = song.nextTrack;
    const tracks = song.tracks.flatMap((track) => {
      if (!wanted.has(track)) return [track];
      const split = splitByChannel(track.events);
      const parts = names ? keptTogether(split, track === song.tracks[0]) : split;
      const name = trackLabel(song, track);
      if (parts.length === 1) {
        skipped.push({ track: track.id, name, why: 'It plays on one channel at most.' });
        return [track];
      }
      changes.push({
        track: track.id,
        name,
        did: 'changed',
        counts: {},
        detail: `${counted(parts.length - 1, 'channel')} taken out`,
      });
      return parts.map((events, index): Track => {
        if (index === 0) return withEvents(track, events);
        const own = withEvents(
          { ...track, id: trackId(nextTrack++) },
          onDeviceOf(split[0]!, events),
        );
        const called = `channel ${channelOf(events) + 1}`;
        changes.push({
          track: own.id,
          name: names ? `${name} ${called}` : called,
          did: 'added',
          counts: countKinds(events),
        });
        return names ? withTrackName(own, `${name} ${called}`, song.encoding) : own;
      });
    });
    if (changes.length === 0) return ok({ song, report: { changes, skipped } });
    return ok({
      song: { ...song, tracks, nextTrack, alienChunks: shifted(song, tracks) },
      report: { changes, skipped },
    });
  },
  describe(_, { changes }) {
    const parts = changes.filter((c) => c.did === 'added').length;
    return `Gave each of ${parts} channels its own track`;
  },
  examples: [
    { says: 'Split every track that plays on several channels', settings: {} },
    { says: 'A part of several channels, each called after it', settings: { names: true } },
  ],
});

/**
 * Of what was split only what plays gets a track of its own: what only sets up stays with what is of no
 * channel. In the song's first track that is the song's; in any other the first part goes with it, and
 * keeps the name.
 */
function keptTogether(split: readonly Events[], isFirst: boolean): readonly Events[] {
  const [own, ...others] = split;
  const plays = ({ status }: Events): boolean => status.some((s) => s >> 4 === 9);
  const playing = others.filter(plays);
  if (playing.length === 0) return split;
  const home = [own!, ...others.filter((e) => !plays(e)), ...(isFirst ? [] : playing.slice(0, 1))];
  return [mergeEvents(home), ...(isFirst ? playing : playing.slice(1))];
}

const channelOf = ({ status }: Events): number => (status.find((s) => s < 0xf0) ?? 0) & 0x0f;

/** Alien chunks keep standing before the track they stood before. */
function shifted(song: Song, tracks: readonly Track[]): Song['alienChunks'] {
  const places = new Map(tracks.map((t, place) => [t.id, place]));
  return song.alienChunks.map((chunk) => ({
    ...chunk,
    beforeTrack: places.get(song.tracks[chunk.beforeTrack]?.id ?? '') ?? tracks.length,
  }));
}
