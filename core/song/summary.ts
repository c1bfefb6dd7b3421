import { META, endTick, meta, type Events } from '../smf/events.ts';
import type { InstrumentDefinition } from '../instruments/definition.ts';
import type { TextEncodingName } from '../smf/text.ts';
import { cellAt, type BarCells } from './cells.ts';
import { notesOf } from './notes.ts';
import { choosesIt } from './played-by.ts';
import { meantType } from '../smf/own-events.ts';
import { channelsOf, trackName, type Track } from './song.ts';
import { factsOf, type Factual } from './track-facts.ts';

/** What a track carries, small enough to send and show. Channels and programs are as stored, from 0. */
export interface TrackSummary {
  readonly id: string;
  readonly name: string;
  /** The name is the track's own (a track name event), not its instrument name. */
  readonly ownName: boolean;
  readonly channels: readonly number[];
  readonly ports: readonly number[];
  readonly programs: readonly ProgramUse[];
  readonly events: number;
  readonly notes: number;
  readonly hangingNotes: number;
  readonly pitch?: { readonly lowest: number; readonly highest: number };
  readonly velocity?: VelocityShape;
  readonly controllers: readonly LaneCount[];
  /** Keys of parked lanes, see `lanes.ts`. */
  readonly parked?: readonly string[];
  /** The definition that plays it. */
  readonly instrument?: InstrumentDefinition;
  readonly counts: EventCounts;
  readonly firstNoteTick?: number;
  readonly lastNoteTick?: number;
  readonly endTick: number;
  /** Notes that sound in each cell of the song's bars. */
  readonly activity: readonly number[];
}

export interface ProgramUse {
  readonly channel: number;
  readonly program: number;
  /** Bank select in force (controller 0 and 32 as one number), if one was sent. */
  readonly bank?: number;
  readonly atTick: number;
}

export interface VelocityShape {
  readonly lowest: number;
  readonly highest: number;
  readonly mean: number;
  readonly distinct: number;
  /** Sixteen bins of eight values each. */
  readonly bins: readonly number[];
}

export interface LaneCount {
  readonly controller: number;
  readonly count: number;
}

export interface EventCounts {
  readonly pitchBend: number;
  readonly pressure: number;
  readonly programChanges: number;
  readonly systemExclusive: number;
  readonly lyrics: number;
  readonly texts: number;
  readonly tempos: number;
  readonly meters: number;
  readonly markers: number;
}

const mostPrograms = 64;

/** What a track carries whatever song it stands in: all that depends on its events alone. */
export type TrackContent = Omit<
  TrackSummary,
  'id' | 'name' | 'ownName' | 'parked' | 'instrument' | 'activity'
>;

export const contentOf = (events: Events): TrackContent => ({
  events: events.count,
  endTick: endTick(events),
  ...messages(events),
  ...playing(events),
});

/** A track as far as its summary needs it: its facts, or events to work them out of. */
export type TrackOutline = Pick<Track, 'id' | 'parked' | 'instrument'> & Factual;

/** The summary of a track, put together from what is known of it. */
export function summaryOf(
  track: TrackOutline,
  encoding: TextEncodingName,
  content: TrackContent,
  activity: readonly number[],
): TrackSummary {
  const { id, parked, instrument } = track;
  return {
    id,
    name: trackName(track, encoding),
    ownName: factsOf(track).trackName !== undefined,
    ...content,
    ...(parked?.length ? { parked } : {}),
    ...(instrument && choosesIt(instrument, content.programs[0]) ? { instrument } : {}),
    activity,
  };
}

export const summarise = (
  track: Track,
  cells: BarCells,
  encoding: TextEncodingName,
): TrackSummary =>
  summaryOf(track, encoding, contentOf(track.events), activityOf(track.events, cells));

type Heard = Pick<TrackSummary, 'channels' | 'ports' | 'programs' | 'controllers' | 'counts'>;

/** One pass over the columns: what is sent, on which channels. */
function messages(events: Events): Heard {
  const { count, status, data1, data2, atTick } = events;
  const byKind = new Uint32Array(16);
  const byMeta = new Uint32Array(128);
  const byController = new Uint32Array(128);
  const bank = new Int32Array(16).fill(-1);
  const programs: ProgramUse[] = [];
  for (let i = 0; i < count; i++) {
    const s = status[i]!;
    if (s >= 0xf0) {
      if (s === META) byMeta[meantType(events, i)]!++;
      else byKind[15]!++;
      continue;
    }
    const channel = s & 0x0f;
    byKind[s >> 4]!++;
    if (s >> 4 === 0xb) {
      byController[data1[i]!]!++;
      if (data1[i] === 0) bank[channel] = (Math.max(0, bank[channel]!) & 0x7f) | (data2[i]! << 7);
      if (data1[i] === 32) bank[channel] = (Math.max(0, bank[channel]!) & 0x3f80) | data2[i]!;
    } else if (s >> 4 === 0xc && programs.length < mostPrograms) {
      programs.push({
        channel,
        program: data1[i]!,
        atTick: atTick[i]!,
        ...(bank[channel]! >= 0 ? { bank: bank[channel]! } : {}),
      });
    }
  }
  return {
    channels: channelsOf(events),
    ports: portsOf(events),
    programs,
    controllers: [...byController.keys()]
      .filter((c) => byController[c])
      .map((c) => ({ controller: c, count: byController[c]! })),
    counts: eventCounts(byKind, byMeta),
  };
}

function eventCounts(byKind: Uint32Array, byMeta: Uint32Array): EventCounts {
  const metas = (...types: number[]): number => types.reduce((sum, type) => sum + byMeta[type]!, 0);
  return {
    pitchBend: byKind[0xe]!,
    pressure: byKind[0xa]! + byKind[0xd]!,
    programChanges: byKind[0xc]!,
    systemExclusive: byKind[15]!,
    lyrics: metas(meta.lyric),
    texts: metas(meta.text, meta.copyright),
    tempos: metas(meta.tempo),
    meters: metas(meta.timeSignature),
    markers: metas(meta.marker, meta.cuePoint),
  };
}

function portsOf(events: Events): number[] {
  const ports = new Set<number>();
  for (let i = 0; i < events.count; i++) {
    if (events.status[i] !== META || events.data1[i] !== meta.port) continue;
    const n = events.payload[i]!;
    if (n !== 0) ports.add(events.pool.bytes[events.pool.start[n]!]!);
  }
  return [...ports];
}

type Played = Pick<
  TrackSummary,
  'notes' | 'hangingNotes' | 'pitch' | 'velocity' | 'firstNoteTick' | 'lastNoteTick'
>;

/** One pass over the notes: range, loudness, first and last. */
function playing(events: Events): Played {
  const notes = notesOf(events);
  if (notes.count === 0) return { notes: 0, hangingNotes: 0 };
  const { data1, data2, atTick } = events;
  const velocities = new Uint32Array(128);
  let lowest = 127;
  let highest = 0;
  let hanging = 0;
  let last = 0;
  for (let n = 0; n < notes.count; n++) {
    const on = notes.on[n]!;
    const off = notes.off[n]!;
    const to = off === -1 ? atTick[on]! : atTick[off]!;
    if (off === -1) hanging++;
    if (to > last) last = to;
    const key = data1[on]!;
    if (key < lowest) lowest = key;
    if (key > highest) highest = key;
    velocities[data2[on]!]!++;
  }
  return {
    notes: notes.count,
    hangingNotes: hanging,
    pitch: { lowest, highest },
    velocity: velocityShape(velocities, notes.count),
    firstNoteTick: atTick[notes.on[0]!]!,
    lastNoteTick: last,
  };
}

/** How many notes sound in each cell of the song's bars. */
export function activityOf(events: Events, cells: Pick<BarCells, 'starts'>): number[] {
  const notes = notesOf(events);
  const { atTick } = events;
  // Differences: +1 where a note begins, -1 behind the cell where it ends; summed up afterwards.
  const steps = new Int32Array(cells.starts.length + 1);
  for (let n = 0; n < notes.count; n++) {
    const from = atTick[notes.on[n]!]!;
    const off = notes.off[n]!;
    const to = off === -1 ? from : atTick[off]!;
    steps[cellAt(cells, from)]!++;
    steps[cellAt(cells, Math.max(from, to - 1)) + 1]!--;
  }
  const activity: number[] = [];
  for (let cell = 0, sounding = 0; cell < cells.starts.length - 1; cell++)
    activity.push((sounding += steps[cell]!));
  return activity;
}

function velocityShape(velocities: Uint32Array, notes: number): VelocityShape {
  const bins = new Array<number>(16).fill(0);
  let sum = 0;
  let distinct = 0;
  let lowest = 127;
  let highest = 0;
  for (let v = 1; v < 128; v++) {
    const n = velocities[v]!;
    if (n === 0) continue;
    bins[v >> 3]! += n;
    sum += v * n;
    distinct++;
    lowest = Math.min(lowest, v);
    highest = Math.max(highest, v);
  }
  return { lowest, highest, mean: Math.round((sum / notes) * 10) / 10, distinct, bins };
}
