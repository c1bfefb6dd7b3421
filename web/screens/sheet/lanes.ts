import type { TrackView } from '#contracts/songs.ts';

/** A column of the sheet: one controller, or another kind of message, over all tracks. */
export interface Lane {
  readonly key: string;
  readonly name: string;
  countIn(track: TrackView): number;
}

const others: readonly Lane[] = [
  { key: 'program', name: 'Program', countIn: (t) => t.counts.programChanges },
  { key: 'bend', name: 'Pitch bend', countIn: (t) => t.counts.pitchBend },
  { key: 'pressure', name: 'Pressure', countIn: (t) => t.counts.pressure },
  { key: 'sysex', name: 'System excl.', countIn: (t) => t.counts.systemExclusive },
  { key: 'lyric', name: 'Lyrics', countIn: (t) => t.counts.lyrics },
];

const controllerLane = (controller: number, name: string): Lane => ({
  key: `c${controller}`,
  name,
  countIn: (t) => t.controllers.find((c) => c.controller === controller)?.count ?? 0,
});

/**
 * The lanes that occur in a song, at most `most`; floods and those of many tracks come first, the others
 * share the last column.
 */
export function lanesOf(tracks: readonly TrackView[], bars: number, most: number): Lane[] {
  const names = new Map<number, string>();
  for (const t of tracks) for (const c of t.controllers) names.set(c.controller, c.name);
  const controllers = [...names]
    .sort(([a], [b]) => a - b)
    .map(([number, name]) => controllerLane(number, name));
  const used = [
    ...others.filter((lane) => tracks.some((t) => lane.countIn(t) > 0)),
    ...controllers,
  ];
  if (used.length <= most) return used;
  const weight = (lane: Lane): number =>
    tracks.reduce(
      (sum, t) =>
        sum + (isFlood(lane.countIn(t), bars) ? tracks.length + 1 : Math.min(1, lane.countIn(t))),
      0,
    );
  const kept = new Set(
    [...used].sort((a, b) => weight(b) - weight(a)).slice(0, Math.max(1, most - 1)),
  );
  const rest = used.filter((lane) => !kept.has(lane));
  return [
    ...used.filter((lane) => kept.has(lane)),
    {
      key: 'rest',
      name: `${rest.length} others`,
      countIn: (t) => rest.reduce((sum, lane) => sum + lane.countIn(t), 0),
    },
  ];
}

/** More events of one kind a bar than hands make: shown in ochre. */
export const isFlood = (events: number, bars: number): boolean =>
  events > 200 && events / Math.max(1, bars) > 40;
