import { asSpans, changedNotes, changedRows } from '../song/changed-rows.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { meterMap, positionAt, type MeterMap } from '../timing/meter-map.ts';
import type { Events } from '../smf/events.ts';
import type { Manifest } from './manifest.ts';
import type { Blobs, Ports } from './ports.ts';
import { fromManifest } from './revision.ts';

interface Input {
  readonly before: Manifest;
  readonly after: Manifest;
  readonly blobs: Blobs;
}

export interface ChangedBars {
  /** First and last, both included, rising. */
  readonly bars: { readonly from: number; readonly to: number }[];
  readonly tracks: string[];
}

/**
 * Bars in which one revision of a song has other events than another: what was there by the bars before, what
 * came by those after. Only tracks whose bytes differ are looked at.
 */
export function barsChanged({ before, after, blobs }: Input, ports: Ports): ChangedBars {
  const [was, is] = [before, after].map((m) => fromManifest(m, { blobs }, ports).song) as [
    Song,
    Song,
  ];
  const blobOf = (m: Manifest): Map<string, string> => new Map(m.tracks.map((t) => [t.id, t.blob]));
  const [old, now] = [blobOf(before), blobOf(after)];
  const ids = [...new Set([...old.keys(), ...now.keys()])].filter(
    (id) => old.get(id) !== now.get(id),
  );
  const bars = new Set<number>();
  const mark = (song: Song, other: Song): void => {
    const map = meterMap(timingOf(song).meters, song.division);
    for (const id of ids) {
      const its = eventsOf(song, id);
      if (its) for (const bar of barsOf(its, eventsOf(other, id), map)) bars.add(bar);
    }
  };
  mark(was, is);
  mark(is, was);
  const spans = asSpans([...bars].sort((a, b) => a - b));
  return { bars: spans.map(([from, to]) => ({ from, to })), tracks: ids };
}

const eventsOf = (song: Song, id: string): Events | undefined =>
  song.tracks.find((t) => t.id === id)?.events;

/** Bars of events that another state of their track does not have. */
function barsOf(its: Events, others: Events | undefined, map: MeterMap): Set<number> {
  const rows = others
    ? [...changedRows(its, others), ...changedNotes(its, others)]
    : Array.from({ length: its.count }, (_, row) => row);
  return new Set(rows.map((row) => positionAt(map, its.atTick[row]!).bar));
}
