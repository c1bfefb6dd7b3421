import type { TrackView } from '#contracts/songs.ts';

/** In which order the sheet shows the tracks; the song's own order stays. */
export interface Sorting {
  readonly by: 'place' | 'name' | 'channel' | 'notes' | 'pitch' | 'velocity';
  readonly down: boolean;
}

const values: Record<Exclude<Sorting['by'], 'place' | 'name'>, (t: TrackView) => number> = {
  channel: (t) => t.channels[0] ?? 99,
  notes: (t) => t.notes,
  pitch: (t) => t.pitch?.lowest ?? 999,
  velocity: (t) => t.velocity?.mean ?? 999,
};

export function sorted(tracks: readonly TrackView[], { by, down }: Sorting): TrackView[] {
  const list = [...tracks];
  if (by === 'name') list.sort((a, b) => a.name.localeCompare(b.name));
  else if (by !== 'place') list.sort((a, b) => values[by](a) - values[by](b));
  return down ? list : list.reverse();
}
