import { payloadOf, type Events } from '../../../smf/events.ts';
import { kindOf, type EventKind } from './event-kind.ts';

/** What the proof has to know of a track before it goes through it. */
export interface TrackOutline {
  /** What its first port event says, else 0 (meta 21, common practice). */
  readonly port: number;
  /** Bit n: something is sent on channel n, from 0. */
  readonly channels: number;
  readonly hasExclusive: boolean;
  /** Tempo, meter, key, timecode, marks, texts or copyright: what may belong to the whole song. */
  readonly saysOfSong: boolean;
  readonly lastTick: number;
}

const ofSong: ReadonlySet<EventKind> = new Set([
  'tempo',
  'meter',
  'key signature',
  'timecode',
  'marker',
  'cue point',
  'text',
  'copyright',
]);

const knownOutlines = new WeakMap<Events, TrackOutline>();

/** Goes through a track once, however many files are asked about it. */
export function outlineTrack(events: Events): TrackOutline {
  const known = knownOutlines.get(events);
  if (known) return known;
  let [port, channels] = [-1, 0];
  let [hasExclusive, saysOfSong] = [false, false];
  for (let row = 0; row < events.count; row++) {
    const status = events.status[row]!;
    if (status < 0xf0) {
      channels |= 1 << (status & 15);
      continue;
    }
    const kind = kindOf(events, row);
    hasExclusive ||= kind === 'exclusive';
    saysOfSong ||= ofSong.has(kind);
    if (kind === 'port' && port < 0) port = payloadOf(events, row)[0] ?? 0;
  }
  const outline = {
    port: Math.max(0, port),
    channels,
    hasExclusive,
    saysOfSong,
    lastTick: events.atTick[events.count - 1] ?? 0,
  };
  knownOutlines.set(events, outline);
  return outline;
}

/** The channels of a track, from 0. */
export const channelsOfTrack = (events: Events): number[] =>
  Array.from({ length: 16 }, (_, channel) => channel).filter(
    (channel) => (outlineTrack(events).channels >> channel) & 1,
  );
