import { META, SYSEX, endTick, isMeta, meta, payloadOf, type Events } from '../smf/events.ts';
import { timingFacts, type TimingFacts } from '../timing/timing-facts.ts';
import { toHex } from '../units/hex.ts';

/**
 * What a song needs to know of a track whose events nobody looks at: plain JSON, small for a part, and true
 * for the events alone, in whatever song and under whatever encoding they stand. They go with the events:
 * an edited track has new ones.
 */
export interface TrackFacts {
  readonly endTick: number;
  /** Bit n: it sends something on channel n (from 0). */
  readonly channels: number;
  /** Bit n: it has controllers, bends or pressure on channel n. */
  readonly lanes: number;
  /** It sends system exclusive messages. */
  readonly exclusive: boolean;
  /** Ports that it names, in order of first mention. */
  readonly ports: readonly number[];
  /** Its first track name, and its first instrument name, as hexadecimal bytes. */
  readonly trackName?: string;
  readonly instrumentName?: string;
  readonly timing?: TimingFacts;
}

const known = new WeakMap<Events, TrackFacts>();

/** A track as far as its facts go. */
export type Factual =
  | { readonly events: Events; readonly facts?: TrackFacts }
  | { readonly facts: TrackFacts; readonly events?: undefined };

/** The facts of a track: those it carries, or worked out from its events, once. */
export const factsOf = (track: Factual): TrackFacts => track.facts ?? factsOfEvents(track.events!);

export function factsOfEvents(events: Events): TrackFacts {
  const had = known.get(events);
  if (had) return had;
  const facts = workedOut(events);
  known.set(events, facts);
  return facts;
}

function workedOut(events: Events): TrackFacts {
  const { count, status } = events;
  let channels = 0;
  let lanes = 0;
  let exclusive = false;
  const ports = new Set<number>();
  for (let i = 0; i < count; i++) {
    const s = status[i]!;
    if (s < 0xf0) {
      channels |= 1 << (s & 15);
      if (s >> 4 === 0xd || s >> 4 === 0xe || (s >> 4 === 0xb && events.data1[i]! < 120))
        lanes |= 1 << (s & 15);
    } else if (s === META) {
      if (events.data1[i] === meta.port && events.payload[i] !== 0)
        ports.add(payloadOf(events, i)[0]!);
    } else exclusive ||= s === SYSEX;
  }
  const [trackName, instrumentName] = [meta.trackName, meta.instrumentName].map((type) =>
    firstText(events, type),
  );
  const timing = timingFacts(events);
  return {
    endTick: endTick(events),
    channels,
    lanes,
    exclusive,
    ports: [...ports],
    ...(trackName === undefined ? {} : { trackName }),
    ...(instrumentName === undefined ? {} : { instrumentName }),
    ...(timing ? { timing } : {}),
  };
}

function firstText(events: Events, type: number): string | undefined {
  for (let i = 0; i < events.count; i++)
    if (isMeta(events, i, type)) return toHex(payloadOf(events, i));
  return undefined;
}
