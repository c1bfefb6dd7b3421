import { z } from 'zod';
import { countKinds } from '../../../edit/event-kinds.ts';
import {
  landed,
  landingInBars,
  landingInSeconds,
  landingTick,
  type Landing,
} from '../../../edit/landing.ts';
import { keptLengthWords } from '../../../edit/least-length.ts';
import { onOtherChannels, type OtherChannels } from '../../../edit/other-channels.ts';
import { counted } from '../../../edit/rewrite.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { ok, refused, type Result } from '../../../problems/problems.ts';
import { mostChunks } from '../../../smf/read-chunks.ts';
import { inOtherEncoding } from '../../../smf/other-encoding.ts';
import {
  shownText,
  trackId,
  trackLabel,
  trackName,
  withEvents,
  type Song,
  type Track,
} from '../../../song/song.ts';
import { factsOf } from '../../../song/track-facts.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { defineOperation, type Change, type Report } from '../../operation.ts';
import { sourceKey, sourceSchema, sourceWords, type NamedSource } from '../../sources.ts';
import { freeChannels } from './free-channels.ts';
import { partsOf } from './part.ts';

const settings = z.strictObject({
  source: sourceSchema,
  tracks: z
    .union([z.literal('all'), z.array(z.string().max(40)).min(1).max(70_000)])
    .default('all')
    .meta({
      title: 'Tracks',
      description: 'all, or ids of the tracks that are taken.',
      offers: 'source-tracks',
    }),
  bar: z.int().min(1).max(1_000_000_000).nullable().default(null).meta({
    title: 'At bar',
    description: 'Where its beginning falls. Empty: its bars stay the bars they are.',
  }),
  keep: z.enum(['bars', 'seconds']).default('bars').meta({
    title: 'Keep',
    description:
      'Bars: as it is counted, in quarter notes from there on. Seconds: as it sounded, over both tempo maps.',
  }),
  channels: z.enum(['free where taken', 'as they are']).default('free where taken').meta({
    title: 'Channels',
    description:
      'Free where taken: parts on a channel that this song plays on get one that is free; drums stay on 10.',
  }),
});
type Settings = z.infer<typeof settings>;

export const tracksBringIn = defineOperation({
  id: 'tracks.bring-in',
  version: 1,
  title: 'Bring in tracks',
  summary:
    'Takes tracks of another file or song into this one, true to the bars or as they sounded. Tempo, meters, keys and markers of this song stay as they are.',
  group: 'tracks',
  scope: 'song',
  settings,
  sources: ({ source }) => [source],
  apply(song, asked, _, sources) {
    const source = sources.get(sourceKey(asked.source as NamedSource))!;
    const landing = landingOf(song, source, asked);
    if (!landing)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.keep' },
        expected: 'seconds, where ticks are parts of frames',
        found: 'bars',
      });
    const chosen = chosenOf(source, asked.tracks);
    if (!chosen.ok) return chosen;
    const { tracks: parts, empty, left } = partsOf(source, chosen.value);
    const skipped = skippedOf(source, empty, left);
    if (parts.length === 0) return ok({ song, report: { changes: [], skipped } });
    if (song.tracks.length + parts.length > mostChunks)
      return refused({
        code: 'settings-invalid',
        where: { field: 'settings.tracks' },
        expected: `at most ${mostChunks - song.tracks.length} tracks beside those of the song`,
        found: `${parts.length}`,
      });
    const { byPort, crowded } =
      asked.channels === 'as they are' ? asTheyAre : freeChannels(song.tracks, parts);
    const nameOf = uniqueNames(song, parts.length === 1 ? source.title : `${source.title} {n}`);
    const changes: Change[] = [];
    const tracks = parts.map((part, n): Track => {
      const channels = byPort.get(factsOf(part).ports[0] ?? 0) ?? new Map<number, number>();
      const id = trackId(song.nextTrack + n);
      const { track, change } = brought(part, source, song, { landing, channels, nameOf, id });
      changes.push(change);
      return track;
    });
    if (crowded.length > 0) skipped.push({ why: crowdedWords(crowded) });
    return ok({
      song: withTracks(song, [...song.tracks, ...tracks], song.nextTrack + tracks.length),
      report: { changes, skipped },
    });
  },
  describe: ({ source, bar }, { changes }) =>
    `Brought in ${changes.length === 1 ? changes[0]!.name : counted(changes.length, 'track')} of ${sourceWords(source)}${bar === null ? '' : ` at bar ${bar}`}`,
  examples: [
    {
      says: 'All of a file, at its own bars',
      settings: { source: { original: '0'.repeat(64), called: 'brass.mid' } },
    },
    {
      says: 'One track of a file at bar 3, as it sounded',
      settings: {
        source: { original: '0'.repeat(64), called: 'brass.mid' },
        tracks: ['t2'],
        bar: 3,
        keep: 'seconds',
      },
    },
  ],
});

/** No part goes to another channel. */
const asTheyAre = { byPort: new Map<number, OtherChannels>(), crowded: [] };

const crowdedWords = (channels: readonly number[]): string =>
  `No channel is free for ${channels.length === 1 ? 'channel' : 'channels'} ${channels.join(', ')}: what plays there shares it with tracks of this song.`;

/** How a part comes into a song: where its ticks fall, on which channels, under which name and id. */
interface Way {
  readonly landing: Landing;
  readonly channels: OtherChannels;
  readonly nameOf: (name: string) => string;
  readonly id: string;
}

/** A part of another song as a track of this one, and what was changed to fit. What has nothing to change keeps its very columns and bytes. */
function brought(
  part: Track,
  source: Song,
  song: Song,
  { landing, channels, nameOf, id }: Way,
): { track: Track; change: Change } {
  const read = inOtherEncoding(part.events, source.encoding, song.encoding);
  const { events, off, kept } = landed(read, landing, song);
  const there = { ...(events === part.events ? part : withEvents(part, events)), id };
  const played = onOtherChannels(there, channels);
  const was = trackName(part, source.encoding);
  const name = nameOf(was);
  const track = name === was ? played : withTrackName(played, name, song.encoding);
  const said = [
    [...channels]
      .filter(([from]) => factsOf(part).channels & (1 << from))
      .map(([from, to]) => `channel ${from + 1} is ${to + 1} here`)
      .join(', '),
    name === was ? '' : was === '' ? 'had no name' : `was ${was}`,
    off > 0 ? `at most ${off < 0.001 ? 'a thousandth of a' : off.toFixed(3)} ms off` : '',
    keptLengthWords(kept) ?? '',
  ].filter((words) => words !== '');
  const detail = said.length > 0 ? { detail: said.join('; ') } : {};
  return {
    track,
    change: { track: id, name, did: 'added', counts: countKinds(track.events), ...detail },
  };
}

function landingOf(song: Song, source: Song, { bar, keep }: Settings): Landing | undefined {
  const atTick = landingTick(song, bar ?? undefined);
  return keep === 'bars'
    ? landingInBars(song, source, atTick)
    : landingInSeconds(song, source, atTick);
}

function chosenOf(source: Song, wanted: Settings['tracks']): Result<readonly Track[]> {
  if (wanted === 'all') return ok(source.tracks);
  const ids = new Set(wanted);
  const chosen = source.tracks.filter((t) => ids.delete(t.id));
  return ids.size === 0
    ? ok(chosen)
    : refused({
        code: 'settings-invalid',
        where: { field: 'settings.tracks' },
        expected: `tracks of the source: ${source.tracks
          .slice(0, 20)
          .map((t) => t.id)
          .join(', ')}${source.tracks.length > 20 ? ' …' : ''}`,
        found: [...ids].slice(0, 20).join(', '),
      });
}

function skippedOf(
  source: Song,
  empty: readonly Track[],
  left: Readonly<Record<string, number>>,
): Report['skipped'][number][] {
  const kinds = Object.entries(left).map(([kind, n]) => counted(n, kind));
  return [
    ...empty.map((t) => ({ name: trackLabel(source, t), why: 'It plays nothing.' })),
    ...(kinds.length > 0
      ? [{ why: `Not taken, since they are the other song’s own: ${kinds.join(', ')}.` }]
      : []),
  ];
}

/** Names for tracks that come into a song: their own, numbered where it is taken; `unnamed`, in which {n} counts, where they have none. */
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
