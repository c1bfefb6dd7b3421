import { META, eventAt, meta, metaEvent, type EventValue } from '../../smf/events.ts';
import { eventsFrom, pickEvents } from '../../smf/event-builder.ts';
import { mergeEvents } from '../../smf/merge.ts';
import { trackLabel, withEvents, type Song, type Track } from '../../song/song.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import { timingOf } from '../../timing/timing.ts';
import type { Change } from '../operation.ts';
import { sortedByTick } from './retime.ts';

export const tempoEvent = (atTick: number, tempo: number): EventValue => metaEvent(atTick, meta.tempo, Uint8Array.of(tempo >> 16, (tempo >> 8) & 255, tempo & 255));

/** Takes the song's own metas that `goes` names out of every track, and puts others into the first. Where what goes is what comes, nothing changes. */
export function editMap(song: Song, goes: (type: number, atTick: number) => boolean, added: readonly EventValue[], kind: string): { song: Song; changes: Change[] } {
  const counts = new Map<string, number>();
  const gone: EventValue[] = [];
  const tracks = song.tracks.map((track): Track => {
    const { events } = track;
    const rows: number[] = [];
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] !== META || events.data1[i] === meta.endOfTrack || !goes(events.data1[i]!, events.atTick[i]!)) rows.push(i);
      else gone.push(eventAt(events, i));
    }
    if (rows.length === events.count) return track;
    counts.set(track.id, events.count - rows.length);
    return withEvents(track, pickEvents(events, rows));
  });
  if (said(gone) === said(added)) return { song, changes: [] };
  const first = tracks[0]!;
  if (added.length > 0) {
    tracks[0] = withEvents(first, mergeEvents([eventsFrom(added), first.events]));
    counts.set(first.id, Math.max(added.length, counts.get(first.id) ?? 0));
  }
  const name = (id: string): string => trackLabel(song, song.tracks.find((t) => t.id === id)!);
  return { song: { ...song, tracks }, changes: [...counts].map(([id, n]): Change => ({ track: id, name: name(id), did: 'changed', counts: { [kind]: n } })) };
}

const said = (events: readonly EventValue[]): string => events.map((e) => `${e.atTick} ${e.data1} ${e.payload.join()}`).sort().join('\n');

/** What belongs to the bars and not to the sound: it keeps its ticks when the music keeps its seconds. */
const ofBars: ReadonlySet<number> = new Set([meta.tempo, meta.timeSignature, meta.keySignature, meta.smpteOffset, meta.sequenceNumber, meta.trackName]);

/** The song with every event that sounds, and every marker, where it sounded in `before`: ticks change, seconds stay. Says how many moved. */
export function keepSeconds(before: Song, after: Song): { song: Song; moved: number } {
  const old = tempoMap(timingOf(before).tempos, before.division);
  const now = tempoMap(timingOf(after).tempos, after.division);
  let moved = 0;
  const tracks = after.tracks.map((track): Track => {
    const { events } = track;
    const atTick = events.atTick.slice();
    let changed = 0;
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] === META && ofBars.has(events.data1[i]!)) continue;
      const tick = secondsToTicks(now, ticksToSeconds(old, events.atTick[i]!));
      if (tick === atTick[i]) continue;
      atTick[i] = tick;
      changed++;
    }
    if (changed === 0) return track;
    moved += changed;
    return withEvents(track, sortedByTick(events, atTick, new Int8Array(events.count)));
  });
  return { song: { ...after, tracks }, moved };
}
