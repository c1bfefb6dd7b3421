import { z } from 'zod';
import { barOf, barSetting, wholeEdgesSetting } from '../../../edit/arrange/in-bars.ts';
import { barsOf } from '../../../edit/arrange/laid-out.ts';
import { notesOver } from '../../../edit/arrange/notes-over-edges.ts';
import type { Stretch } from '../../../edit/arrange/stretches.ts';
import { firstRow } from '../../../edit/arrange/values-at.ts';
import { woven } from '../../../edit/arrange/woven.ts';
import { aboutTrack } from '../../../edit/about-track.ts';
import { countKinds } from '../../../edit/event-kinds.ts';
import { withTracks } from '../../../edit/track-list.ts';
import { ok } from '../../../problems/problems.ts';
import { META, endTick, eventAt, type Events, type EventValue } from '../../../smf/events.ts';
import { hasLane } from '../../../edit/excerpt/excerpt.ts';
import { ofBars } from '../../../edit/arrange/map-again.ts';
import { meantType } from '../../../smf/own-events.ts';
import { tracksIn } from '../../../song/scope.ts';
import { trackId, trackLabel, withEvents, withParked, type Track } from '../../../song/song.ts';
import { withTrackName } from '../../../song/track-name.ts';
import { barTick } from '../../../timing/meter-map.ts';
import { defineOperation, type Change } from '../../operation.ts';

export const tracksSplitAt = defineOperation({
  id: 'tracks.split-at',
  version: 1,
  title: 'Split at a bar',
  summary:
    'Makes two tracks of one: what stands before a bar stays, what stands from it on gets a track of its own, on the same channel and at the same bars.',
  group: 'tracks',
  scope: 'tracks',
  settings: z.strictObject({
    before: barSetting('Before bar').default(2),
    edges: wholeEdgesSetting,
  }),
  apply(song, { before, edges }, scope) {
    const wanted = tracksIn(song, scope);
    if (!wanted.ok) return wanted;
    const { map, bars } = barsOf(song);
    const bar = barOf(before, bars, 'settings.before');
    if (!bar.ok) return bar;
    const tick = barTick(map, before);
    const chosen = new Set(wanted.value);
    const changes: Change[] = [];
    const skipped: { track: string; name: string; why: string }[] = [];
    let next = song.nextTrack;
    const tracks = song.tracks.flatMap((track): Track[] => {
      if (!chosen.has(track)) return [track];
      const name = trackLabel(song, track);
      const parts = splitAt(track, tick, edges);
      if (!parts) {
        skipped.push({ track: track.id, name, why: 'Nothing of it stands on one of the sides.' });
        return [track];
      }
      const [first, second] = parts.map((events) => withLanes(track, events)) as [Track, Track];
      const called = `${name} from bar ${before}`;
      const own = withTrackName({ ...second, id: trackId(next++) }, called, song.encoding);
      changes.push(
        { track: track.id, name, did: 'changed', counts: countKinds(first.events) },
        { track: own.id, name: called, did: 'added', counts: countKinds(own.events) },
      );
      return [first, own];
    });
    const report = { changes, skipped };
    return ok({ song: changes.length === 0 ? song : withTracks(song, tracks, next), report });
  },
  describe: ({ before }, { changes }) =>
    `Split ${changes.length === 2 ? changes[0]!.name : `${changes.length / 2} tracks`} before bar ${before}`,
  examples: [{ says: 'Every track at bar 2', settings: {} }],
});

const withLanes = (track: Track, events: Events): Track => {
  const made = withEvents(track, events);
  return made.parked ? withParked(made, made.parked.filter(hasLane(events))) : made;
};

/** The two parts of a track; what names it stands in both, the map in the first. */
function splitAt(
  { events }: Track,
  tick: number,
  edges: z.infer<typeof wholeEdgesSetting>,
): [Events, Events] | undefined {
  const end = endTick(events);
  const over = (stretch: Stretch) =>
    notesOver(events, { stretches: [stretch], end: Infinity }, edges, 0);
  const sides: Stretch[] = [
    { from: 0, to: tick, at: 0, ends: Infinity },
    { from: tick, to: Infinity, at: tick, ends: Infinity },
  ];
  const map: number[] = [];
  const names: EventValue[] = [];
  for (let row = 0; row < events.count - 1; row++) {
    if (events.status[row] !== META) continue;
    const type = meantType(events, row);
    if (events.atTick[row]! >= tick && ofBars.has(type)) map.push(row);
    if (events.atTick[row]! < tick && aboutTrack.has(type)) names.push(eventAt(events, row));
  }
  const at = firstRow(events, tick);
  const plays = (from: number, to: number): boolean => {
    for (let row = from; row < to; row++) if (events.status[row]! < 0xf0) return true;
    return false;
  };
  if (!plays(0, at) || !plays(at, events.count)) return undefined;
  return sides.map((stretch, n) => {
    const { puts, without } = over(stretch);
    const rows = n === 0 ? ([0, at] as const) : ([at, events.count - 1] as const);
    const own = n === 0 ? map.map((row) => eventAt(events, row)) : names;
    const left = n === 0 ? without.of(0) : new Set([...without.of(0), ...map]);
    const put = own.map((event) => ({ event, order: 1 as const }));
    return woven(events, [{ stretch, rows, without: left }], [...put, ...puts], end);
  }) as [Events, Events];
}
