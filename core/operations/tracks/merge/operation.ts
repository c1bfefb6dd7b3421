import { z } from 'zod';
import { ok } from '../../../problems/problems.ts';
import { pickEvents } from '../../../smf/event-builder.ts';
import { META, meta, type Events } from '../../../smf/events.ts';
import { mergeEvents } from '../../../smf/merge.ts';
import { tracksIn } from '../../../song/scope.ts';
import { playedLanes } from '../../../song/lanes.ts';
import { portWords } from '../../../song/ports.ts';
import { trackLabel, withEvents, withParked, type Track } from '../../../song/song.ts';
import { aboutTrack } from '../../../edit/about-track.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { settleTiming } from '../../../edit/settle-timing.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const tracksMerge = defineOperation({
  id: 'tracks.merge',
  version: 1,
  title: 'Merge tracks',
  summary:
    'Puts the events of several tracks into the first of them, each at its place and on its channel; the report keeps the names that go.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({}),
  apply(song, _, scope) {
    const inScope = tracksIn(song, scope);
    if (!inScope.ok) return inScope;
    const [first, ...others] = inScope.value;
    if (!first || others.length === 0)
      return ok({
        song,
        report: { changes: [], skipped: [{ why: 'Merging takes two tracks or more.' }] },
      });
    const clash = parkedByOne(inScope.value);
    if (clash)
      return ok({
        song,
        report: {
          changes: [],
          skipped: [{ track: clash.id, name: trackLabel(song, clash), why: cannotDoBoth }],
        },
      });
    const parked = [...new Set(inScope.value.flatMap((t) => t.parked ?? []))];
    const events = mergeEvents([first.events, ...others.map((t) => playingOf(t.events))]);
    const merged = withParked(withEvents(first, events), parked);
    const leaving = new Set(others);
    const tracks = song.tracks
      .filter((t) => !leaving.has(t))
      .map((t) => (t === first ? merged : t));
    const removed = others.map((t): Change => ({
      track: t.id,
      name: trackLabel(song, t),
      did: 'removed',
      counts: countKinds(t.events),
      detail: `now in ${trackLabel(song, first)}`,
    }));
    // Its tempo and meter are in the merged track already: of the tracks that go, nothing is the song's any more.
    const emptied = {
      ...song,
      tracks: song.tracks.map((t) => (leaving.has(t) ? withEvents(t, withoutTiming(t.events)) : t)),
    };
    const settled = settleTiming(emptied, withTracks(song, tracks));
    const ports = portWords(inScope.value);
    const change: Change = {
      track: first.id,
      name: trackLabel(song, first),
      did: 'changed',
      counts: { event: events.count - first.events.count },
      ...(ports ? { detail: ports } : {}),
    };
    return ok({
      song: settled.song,
      report: { changes: [change, ...removed, ...settled.changes], skipped: [] },
    });
  },
  describe: (_, { changes }) =>
    `Merged ${changes.filter((c) => c.did === 'removed').length + 1} tracks into ${changes[0]?.name ?? 'none'}`,
  examples: [
    { says: 'All tracks into one', settings: {} },
    { says: 'Two of them', settings: {}, scope: { tracks: ['t2', 't3'] } },
  ],
});

const cannotDoBoth =
  'It plays a lane that is parked in another of the tracks, and one track cannot do both: unpark that lane or park it in both first.';

/** The first track that plays a lane which another one has parked. */
function parkedByOne(tracks: readonly Track[]): Track | undefined {
  const parked = new Set(tracks.flatMap((t) => t.parked ?? []));
  return parked.size === 0
    ? undefined
    : tracks.find((t) => [...playedLanes(t)].some((key) => parked.has(key)));
}

const playingOf = (events: Events): Events =>
  picked(events, (i) => events.status[i] !== META || !aboutTrack.has(events.data1[i]!));
const withoutTiming = (events: Events): Events =>
  picked(events, (i) => events.status[i] !== META || events.data1[i] === meta.endOfTrack);

function picked(events: Events, keep: (row: number) => boolean): Events {
  const rows: number[] = [];
  for (let i = 0; i < events.count; i++) if (keep(i)) rows.push(i);
  return rows.length === events.count ? events : pickEvents(events, rows);
}
