import { protectOwnNotes } from '../../../edit/protect-own-notes.ts';
import { isEmpty } from '../../../edit/empty.ts';
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

/**
 * Parts as tracks of a song, with ids and names of their own there, on channels that are free; the song's own
 * notes sound as before. What only sets up what the song has set up itself is left.
 */
export function asNewTracks(
  song: Song,
  parts: readonly Track[],
  way: Way,
): { tracks: Track[]; changes: Change[]; skipped: Report['skipped'][number][] } {
  const { byPort, crowded } =
    way.asked.channels === 'as they are' ? asTheyAre : freeChannels(song.tracks, parts);
  const placed = parts.map((part) =>
    placedPart(part, song, way, byPort.get(factsOf(part).ports[0] ?? 0) ?? new Map()),
  );
  const beside = protectOwnNotes(
    song,
    placed.map(({ track }) => track),
  );
  const skipped: Report['skipped'][number][] =
    crowded.length > 0 ? [{ why: crowdedWords(crowded) }] : [];
  const { title } = way.source;
  const nameOf = uniqueNames(song, parts.length === 1 ? title : `${title} {n}`);
  const [tracks, changes]: [Track[], Change[]] = [[], []];
  placed.forEach(({ was, said, track: before }, n) => {
    const { part, said: besides } = beside[n]!;
    if (part !== before && isEmpty(part.events)) {
      skipped.push({ name: was, why: `${besides.join('; ')}.` });
      return;
    }
    const id = trackId(song.nextTrack + tracks.length);
    const name = nameOf(was);
    const own = { ...part, id };
    const track = name === was ? own : withTrackName(own, name, song.encoding);
    const renamed = name === was ? '' : was === '' ? 'had no name' : `was ${was}`;
    const detail = [said.channels, renamed, ...said.landed, ...besides].filter((w) => w !== '');
    tracks.push(track);
    changes.push({
      track: id,
      name,
      did: 'added',
      counts: countKinds(track.events),
      ...(detail.length > 0 ? { detail: detail.join('; ') } : {}),
    });
  });
  return { tracks, changes, skipped };
}

const crowdedWords = (channels: readonly number[]): string =>
  `No channel is free for ${channels.length === 1 ? 'channel' : 'channels'} ${channels.join(', ')}: what plays there shares it with tracks of this song.`;

interface PlacedPart {
  readonly track: Track;
  /** Its name in the source. */
  readonly was: string;
  readonly said: { readonly channels: string; readonly landed: readonly string[] };
}

/** A part at its ticks and on its channels here. What has nothing to change keeps its very columns and bytes. */
function placedPart(part: Track, song: Song, way: Way, channels: OtherChannels): PlacedPart {
  const there = landedPart(part, song, way);
  const { events } = there;
  const own = events === part.events ? part : withEvents(part, events);
  return {
    track: onOtherChannels(own, channels),
    was: trackName(part, way.source.encoding),
    said: {
      channels: [...channels]
        .filter(([from]) => factsOf(part).channels & (1 << from))
        .map(([from, to]) => `channel ${from + 1} is ${to + 1} here`)
        .join(', '),
      landed: landedWords(there),
    },
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
