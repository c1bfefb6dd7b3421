import { META, meta, timingMetas, type Events } from '#core/smf/events.ts';
import { eventWords } from '#core/song/event-words.ts';
import type { TextEncodingName } from '#core/smf/text.ts';

export const kinds = [
  'everything',
  'all but notes',
  'all but notes and lanes',
  'notes',
  'controllers',
  'programs',
  'bend',
  'pressure',
  'system exclusive',
  'texts',
  'timing',
] as const;
export type Kind = (typeof kinds)[number];

function isKind(events: Events, i: number, kind: Kind): boolean {
  const status = events.status[i]!;
  const type = events.data1[i]!;
  switch (kind) {
    case 'everything':
      return true;
    case 'all but notes':
      return status >> 4 !== 8 && status >> 4 !== 9;
    case 'all but notes and lanes':
      return status >= 0xf0 || status >> 4 === 0xc;
    case 'notes':
      return status >> 4 === 9 && events.data2[i] !== 0;
    case 'controllers':
      return status >> 4 === 0xb;
    case 'programs':
      return status >> 4 === 0xc || (status >> 4 === 0xb && (type === 0 || type === 32));
    case 'bend':
      return status >> 4 === 0xe;
    case 'pressure':
      return status >> 4 === 0xa || status >> 4 === 0xd;
    case 'system exclusive':
      return status === 0xf0 || status === 0xf7;
    case 'texts':
      return status === META && type >= 1 && type <= 15;
    default:
      return (
        status === META &&
        (timingMetas.has(type) || type === meta.keySignature || type === meta.endOfTrack)
      );
  }
}

/** Bounds, both included: keys and velocities of notes, one controller, ticks. */
export interface Ranges {
  readonly keys?: readonly [number, number];
  readonly velocities?: readonly [number, number];
  readonly controller?: number;
  readonly ticks?: { readonly from: number; readonly to: number };
}

const isOpen = ({ keys, velocities, controller, ticks }: Ranges): boolean =>
  !keys && !velocities && controller === undefined && !ticks;

function isWithin(
  events: Events,
  i: number,
  { keys, velocities, controller, ticks }: Ranges,
): boolean {
  const note = events.status[i]! >> 4 === 9;
  if (ticks && (events.atTick[i]! < ticks.from || events.atTick[i]! >= ticks.to)) return false;
  if (keys && !(note && events.data1[i]! >= keys[0] && events.data1[i]! <= keys[1])) return false;
  if (
    velocities &&
    !(note && events.data2[i]! >= velocities[0] && events.data2[i]! <= velocities[1])
  )
    return false;
  return (
    controller === undefined || (events.status[i]! >> 4 === 0xb && events.data1[i] === controller)
  );
}

/**
 * Whether an event is shown: of the kind, and with the words somewhere in what it is called. Names of
 * channel messages depend on status and first data byte only, so a million events cost four thousand
 * look-ups.
 */
export function eventFilter(
  kind: Kind,
  words: string,
  encoding: TextEncodingName,
  middleC: number,
  ranges: Ranges = {},
): (events: Events, i: number) => boolean {
  const named = byWords(kind, words, encoding, middleC);
  return isOpen(ranges) ? named : (events, i) => isWithin(events, i, ranges) && named(events, i);
}

function byWords(
  kind: Kind,
  words: string,
  encoding: TextEncodingName,
  middleC: number,
): (events: Events, i: number) => boolean {
  const wanted = words.trim().toLowerCase();
  if (wanted === '') return (events, i) => isKind(events, i, kind);
  const known = new Map<number, boolean>();
  const says = (events: Events, i: number): boolean => {
    const { what, value } = eventWords(events, i, encoding, middleC);
    return `${what} ${value}`.toLowerCase().includes(wanted);
  };
  return (events, i) => {
    if (!isKind(events, i, kind)) return false;
    const status = events.status[i]!;
    // Values of notes and controllers differ; they are looked for only where a figure is typed.
    if (status >= 0xf0 || /\d/.test(wanted)) return says(events, i);
    const key = (status << 8) | events.data1[i]!;
    let found = known.get(key);
    if (found === undefined) known.set(key, (found = says(events, i)));
    return found;
  };
}
