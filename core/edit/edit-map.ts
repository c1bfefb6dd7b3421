import { z } from 'zod';
import {
  META,
  eventAt,
  meta,
  metaEvent,
  payloadOf,
  type EventValue,
  type Events,
} from '../smf/events.ts';
import { decodeText, type TextEncodingName } from '../smf/text.ts';
import { eventsFrom, pickEvents } from '../smf/event-builder.ts';
import { mergeEvents } from '../smf/merge.ts';
import { meantType, secondsOfMark, stays } from '../smf/own-events.ts';
import {
  findTrack,
  shownText,
  trackLabel,
  withEvents,
  type Song,
  type Track,
} from '../song/song.ts';
import { secondsToTicks, tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { secondsKept, type Moves } from '../timing/time-map.ts';
import { timingOf } from '../song/timing-of.ts';
import type { Change } from './report.ts';
import { keepLengths, keptLengthWords } from './least-length.ts';
import { sortedByTick } from './retime.ts';

export const tempoEvent = (atTick: number, tempo: number): EventValue =>
  metaEvent(atTick, meta.tempo, Uint8Array.of(tempo >> 16, (tempo >> 8) & 255, tempo & 255));

/**
 * A meter with the click that belongs to it: every beat, in meters of eighths by threes every dotted
 * quarter (SMF 1.0: MIDI clocks, 24 a quarter).
 */
export function meterEvent(atTick: number, numerator: number, denominator: number): EventValue {
  const clocks = denominator === 8 && numerator % 3 === 0 ? 36 : Math.max(1, 96 / denominator);
  return metaEvent(
    atTick,
    meta.timeSignature,
    Uint8Array.of(numerator, Math.log2(denominator), clocks, 8),
  );
}

export const keyEvent = (atTick: number, sharps: number, minor: boolean): EventValue =>
  metaEvent(atTick, meta.keySignature, Uint8Array.of(sharps & 255, Number(minor)));

/** Whether a meta event goes: its type by meaning, its tick, and its text where it matters. */
export type Goes = (type: number, atTick: number, text: () => string, track: string) => boolean;

/**
 * Takes the song's own metas that `goes` names out of every track, and puts others into the first, or the
 * track `into`. Where what goes is what comes, nothing changes.
 */
export function editMap(
  song: Song,
  goes: Goes,
  added: readonly EventValue[],
  kind: string,
  into = song.tracks[0]!.id,
): { song: Song; changes: Change[] } {
  const counts = new Map<string, number>();
  const gone: string[] = [];
  const tracks = song.tracks.map((track): Track => {
    const { events } = track;
    const rows: number[] = [];
    for (let i = 0; i < events.count; i++) {
      if (
        events.status[i] !== META ||
        events.data1[i] === meta.endOfTrack ||
        !goes(
          meantType(events, i),
          events.atTick[i]!,
          () => markText(events, i, song.encoding),
          track.id,
        )
      )
        rows.push(i);
      else {
        gone.push(said(eventAt(events, i), track.id));
        // What says that a mark belongs to time goes with it.
        if (secondsOfMark(events, i) !== undefined && rows.at(-1) === i - 1) {
          rows.pop();
          gone.push(said(eventAt(events, i - 1), track.id));
        }
      }
    }
    if (rows.length === events.count) return track;
    counts.set(track.id, events.count - rows.length);
    return withEvents(track, pickEvents(events, rows));
  });
  const home = song.tracks.some((t) => t.id === into) ? into : song.tracks[0]!.id;
  if (
    gone.sort().join('\n') ===
    added
      .map((e) => said(e, home))
      .sort()
      .join('\n')
  )
    return { song, changes: [] };
  const at = song.tracks.findIndex((t) => t.id === home);
  const target = tracks[at]!;
  if (added.length > 0) {
    tracks[at] = withEvents(target, mergeEvents([eventsFrom(added), target.events]));
    counts.set(target.id, Math.max(added.length, counts.get(target.id) ?? 0));
  }
  const name = (id: string): string => trackLabel(song, findTrack(song, id)!);
  return {
    song: { ...song, tracks },
    changes: [...counts].map(([id, n]): Change => ({
      track: id,
      name: name(id),
      did: 'changed',
      counts: { [kind]: n },
    })),
  };
}

/** Text of a meta event as marks have it. */
const markText = (events: Events, i: number, encoding: TextEncodingName): string =>
  shownText(decodeText(stays(events, i)?.text ?? payloadOf(events, i), encoding));

const said = (e: EventValue, track: string): string =>
  `${track} ${e.atTick} ${e.data1} ${e.payload.join()}`;

/** What belongs to the bars and not to the sound: it keeps its ticks when the music keeps its seconds. */
const ofBars: ReadonlySet<number> = new Set([
  meta.tempo,
  meta.timeSignature,
  meta.keySignature,
  meta.smpteOffset,
  meta.sequenceNumber,
  meta.trackName,
]);

export const musicSetting = z
  .enum(['keeps its bars', 'keeps its seconds'])
  .default('keeps its bars')
  .meta({ title: 'The music' });

/** What music keeps where that is not chosen: see `musicOf`. */
export const byItsNotes = 'keeps its beats; without notes, its bars';

/** The same where meters change, and bars and beats no longer are one. */
export const barsOrBeats = z
  .enum(['keeps its bars', 'keeps its beats', 'keeps its seconds', byItsNotes])
  .default(byItsNotes)
  .meta({
    title: 'The music',
    description:
      'If meters change. Bars: what began on bar 9, beat 2 begins there again. Beats: everything stays where it sounds, and the bar lines move. Seconds: the same, also if tempos change.',
  });
export const beyondSetting = z.enum(['moved', 'cut']).default('moved').meta({
  title: 'Notes past a shortened bar',
  description: 'If bars are kept: moved to the next bar line, or cut. Either is counted.',
});

/** A change of the tempo map as a step: the music in its bars, or moved to stay where it sounds, which is told. */
export function withMusic(
  before: Song,
  edited: { song: Song; changes: Change[] },
  music: z.infer<typeof musicSetting>,
  detail?: string,
): { song: Song; changes: Change[]; moves?: Moves } {
  if (edited.changes.length === 0) return edited;
  const { song, moved, kept, byTrack, moves } =
    music === 'keeps its bars'
      ? { song: edited.song, moved: 0, kept: 0, byTrack: [] }
      : keepSeconds(before, edited.song);
  const said = [
    detail,
    moved > 0 ? `${moved.toLocaleString('en')} events moved to stay where they sound` : undefined,
    keptLengthWords(kept),
  ]
    .filter((d) => d !== undefined)
    .join('; ');
  const named = new Set(edited.changes.map((c) => c.track));
  const others = byTrack
    .filter((t) => !named.has(t.id))
    .map(({ id, count }): Change => ({
      track: id,
      name: trackLabel(song, findTrack(song, id)!),
      did: 'changed',
      counts: { event: count },
    }));
  return {
    song,
    changes: [
      ...edited.changes.map((c, i) => (i === 0 && said ? { ...c, detail: said } : c)),
      ...others,
    ],
    ...(moves && moved > 0 ? { moves } : {}),
  };
}

/**
 * The song with every event that sounds, and every marker, where it sounded in `before`: ticks change,
 * seconds stay. Says how many moved, and how many notes were kept a tick long.
 */
export function keepSeconds(
  before: Song,
  after: Song,
): {
  song: Song;
  moved: number;
  kept: number;
  byTrack: readonly { id: string; count: number }[];
  moves?: Moves;
} {
  const old = tempoMap(timingOf(before).tempos, before.division);
  const now = tempoMap(timingOf(after).tempos, after.division);
  let [moved, kept] = [0, 0];
  const byTrack: { id: string; count: number }[] = [];
  const tracks = after.tracks.map((track): Track => {
    const { events } = track;
    const atTick = events.atTick.slice();
    let changed = 0;
    for (let i = 0; i < events.count; i++) {
      if (events.status[i] === META && ofBars.has(meantType(events, i))) continue;
      const tick = secondsToTicks(now, ticksToSeconds(old, events.atTick[i]!));
      if (tick === atTick[i]) continue;
      atTick[i] = tick;
      changed++;
    }
    if (changed === 0) return track;
    const rank = new Int8Array(events.count);
    kept += keepLengths(events, atTick, rank);
    moved += changed;
    byTrack.push({ id: track.id, count: changed });
    return withEvents(track, sortedByTick(events, atTick, rank));
  });
  return {
    song: { ...after, tracks },
    moved,
    kept,
    byTrack,
    moves: { song: secondsKept(old, now) },
  };
}
