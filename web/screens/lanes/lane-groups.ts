import type { TrackView } from '#contracts/songs.ts';
import { laneWords } from '#core/edit/lane-settings.ts';
import type { Events } from '#core/smf/events.ts';
import { laneKey, type Lane } from '#core/song/lanes.ts';

/** A lane of a track, as it stands in the list. */
export interface LaneOfTrack {
  readonly key: string;
  readonly track: TrackView;
  /** What its track is called. */
  readonly part: string;
  readonly events: Events;
  readonly lane: Lane;
}

export interface LaneGroup {
  readonly key: string;
  readonly title: string;
  readonly lanes: readonly LaneOfTrack[];
}

/** What is as high as a line of text as long as it is not asked for more: one value, or none that differs. */
export const isStill = ({ values }: Lane): boolean => values.every((value) => value === values[0]);

/** "7 volume", "pitch bend". */
export const laneTitle = ({ what }: Lane): string =>
  typeof what === 'number' ? `${what} ${laneWords(what)}` : laneWords(what);

export const laneOf = (
  track: TrackView,
  part: string,
  events: Events,
  lane: Lane,
): LaneOfTrack => ({
  key: `${track.id} ${laneKey(lane.channel, lane.what)}`,
  track,
  part,
  events,
  lane,
});

/** Controllers by their numbers, then bend, pressure and the like. */
const order = ({ what }: Lane): number => (typeof what === 'number' ? what : 128);

/** Lanes of one track together, or those of one controller, in the order of the tracks. */
export function laneGroups(
  lanes: readonly LaneOfTrack[],
  by: 'track' | 'controller',
): readonly LaneGroup[] {
  const groups = new Map<string, LaneOfTrack[]>();
  const keyOf = (one: LaneOfTrack): string =>
    by === 'track' ? one.track.id : String(one.lane.what);
  for (const one of lanes) {
    const together = groups.get(keyOf(one));
    if (together) together.push(one);
    else groups.set(keyOf(one), [one]);
  }
  const list = [...groups].map(([key, together]): LaneGroup => {
    const [first] = together;
    return { key, title: by === 'track' ? first!.part : laneTitle(first!.lane), lanes: together };
  });
  if (by === 'track') return list;
  return list.sort(
    (a, b) => order(a.lanes[0]!.lane) - order(b.lanes[0]!.lane) || (a.title < b.title ? -1 : 1),
  );
}
