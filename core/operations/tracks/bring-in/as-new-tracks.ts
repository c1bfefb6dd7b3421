import { countKinds } from '../../../edit/event-kinds.ts';
import { landed, type Landed, type Landing } from '../../../edit/landing.ts';
import { keptLengthWords } from '../../../edit/least-length.ts';
import { onOtherChannels, type OtherChannels } from '../../../edit/other-channels.ts';
import { inOtherEncoding } from '../../../smf/other-encoding.ts';
import {
  shownText,
  trackId,
  trackName,
  withEvents,
  type Song,
  type Track,
} from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { withTrackName } from '../../../song/track-name.ts';
import type { Change, Report } from '../../operation.ts';
import { freeChannels } from './free-channels.ts';
import type { BringIn } from './settings.ts';

/** How parts of a source come into a song. */
export interface Way {
  readonly asked: BringIn;
  readonly source: Song;
  readonly landing: Landing;
}

/** A part at its places in the song, its texts read as the song reads them. */
export function landedPart(part: Track, song: Song, { source, landing }: Way): Landed {
  return landed(inOtherEncoding(part.events, source.encoding, song.encoding), landing, song);
}

/** In words what is not as it was in the source, beside its place. */
export const landedWords = ({ off, kept }: Landed): string[] => [
  ...(off > 0 ? [`at most ${off < 0.001 ? 'a thousandth of a' : off.toFixed(3)} ms off`] : []),
  ...[keptLengthWords(kept)].filter((words) => words !== undefined),
];

const asTheyAre = { byPort: new Map<number, OtherChannels>(), crowded: [] };

/** Parts as tracks of a song, with ids and names of their own there, on channels that are free. */
export function asNewTracks(
  song: Song,
  parts: readonly Track[],
  way: Way,
): { tracks: Track[]; changes: Change[]; skipped: Report['skipped'][number][] } {
  const { byPort, crowded } =
    way.asked.channels === 'as they are' ? asTheyAre : freeChannels(song.tracks, parts);
  const { title } = way.source;
  const nameOf = uniqueNames(song, parts.length === 1 ? title : `${title} {n}`);
  const changes: Change[] = [];
  const tracks = parts.map((part, n): Track => {
    const channels = byPort.get(factsOf(part).ports[0] ?? 0) ?? new Map<number, number>();
    const id = trackId(song.nextTrack + n);
    const { track, change } = newTrack(part, song, way, { channels, nameOf, id });
    changes.push(change);
    return track;
  });
  return { tracks, changes, skipped: crowded.length > 0 ? [{ why: crowdedWords(crowded) }] : [] };
}

const crowdedWords = (channels: readonly number[]): string =>
  `No channel is free for ${channels.length === 1 ? 'channel' : 'channels'} ${channels.join(', ')}: what plays there shares it with tracks of this song.`;

interface Given {
  readonly channels: OtherChannels;
  readonly nameOf: (name: string) => string;
  readonly id: string;
}

/** A part as a track, and what was changed to fit. What has nothing to change keeps its very columns and bytes. */
function newTrack(
  part: Track,
  song: Song,
  way: Way,
  { channels, nameOf, id }: Given,
): { track: Track; change: Change } {
  const there = landedPart(part, song, way);
  const { events } = there;
  const own = { ...(events === part.events ? part : withEvents(part, events)), id };
  const played = onOtherChannels(own, channels);
  const was = trackName(part, way.source.encoding);
  const name = nameOf(was);
  const track = name === was ? played : withTrackName(played, name, song.encoding);
  const said = [
    [...channels]
      .filter(([from]) => factsOf(part).channels & (1 << from))
      .map(([from, to]) => `channel ${from + 1} is ${to + 1} here`)
      .join(', '),
    name === was ? '' : was === '' ? 'had no name' : `was ${was}`,
    ...landedWords(there),
  ].filter((words) => words !== '');
  const detail = said.length > 0 ? { detail: said.join('; ') } : {};
  return {
    track,
    change: { track: id, name, did: 'added', counts: countKinds(track.events), ...detail },
  };
}

/**
 * Names for tracks that come into a song: their own, numbered where it is taken; `unnamed`, in which {n}
 * counts, where they have none.
 */
function uniqueNames(song: Song, unnamed: string): (name: string) => string {
  const taken = new Set(song.tracks.map((t) => trackName(t, song.encoding)));
  let without = 0;
  return (name) => {
    const wanted = name || shownText(unnamed.replace('{n}', String(++without)));
    let [called, n] = [wanted, 2];
    while (taken.has(called)) called = `${wanted} ${n++}`;
    taken.add(called);
    return called;
  };
}
