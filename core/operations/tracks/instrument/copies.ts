import { countKinds } from '../../../edit/event-kinds.ts';
import { onOtherChannels } from '../../../edit/other-channels.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { trackId, trackLabel, trackName, type Track } from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { channelsIn } from '../../../units/channel-bits.ts';
import { skip, type Given } from './given.ts';
import { takingAlong } from './handed-over.ts';
import { noneFree } from './parts.ts';
import { freeChannel, roomOf } from '../../../edit/room.ts';

/**
 * Copies of parts, each behind its own and called after what plays it, too, on channels that are free, with
 * what they were heard with.
 */
export function withCopies(
  start: Given,
  parts: readonly Track[],
  sound: string,
): { given: Given; ids: readonly string[] } {
  const ids: string[] = [];
  const taken = new Set<number>();
  let given = start;
  for (const part of parts) {
    const { song } = given;
    const [channel, ...others] = channelsIn(factsOf(part).channels);
    const name = trackLabel(song, part);
    if (channel === undefined || others.length > 0) {
      given = skip(given, part, name, channel === undefined ? silent : onSeveral);
      continue;
    }
    const free = freeChannel(song, part, taken);
    if (free === undefined) {
      given = skip(given, part, name, noneFree);
      continue;
    }
    taken.add(free);
    const id = trackId(song.nextTrack);
    const heard = takingAlong(
      song,
      [part],
      roomOf(song, part, channel).filter((t) => t !== part),
      channel,
    );
    const called = uniqueName(
      `${name} · ${sound}`,
      song.tracks.map((t) => trackName(t, song.encoding)),
    );
    const copy = withTrackName(
      { ...onOtherChannels(heard, new Map([[channel, free]])), id },
      called,
      song.encoding,
    );
    const at = song.tracks.findIndex((t) => t.id === part.id) + 1;
    given = {
      song: withTracks(
        song,
        [...song.tracks.slice(0, at), copy, ...song.tracks.slice(at)],
        song.nextTrack + 1,
      ),
      changes: [
        ...given.changes,
        { track: id, name: called, did: 'added', counts: countKinds(copy.events) },
      ],
      skipped: given.skipped,
    };
    ids.push(id);
  }
  return { given, ids };
}

const silent = 'It plays nothing.';
const onSeveral = 'It plays on several channels: split it by channel first.';

function uniqueName(name: string, taken: readonly string[]): string {
  if (!taken.includes(name)) return name;
  let n = 2;
  while (taken.includes(`${name} ${n}`)) n++;
  return `${name} ${n}`;
}
