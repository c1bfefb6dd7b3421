import { payloadOf, type Events } from '../../../smf/events.ts';
import type { Leaving } from '../../take-settings.ts';
import { kindOf, type EventKind } from './event-kind.ts';

/**
 * Whether the settings let a row leave, by the proof's own reading of them. Marks of sections are asked for
 * by `take.sections`, not here.
 */
export function mayLeave(take: Leaving): (events: Events, row: number) => boolean {
  const without = new Set(take.without);
  const rangesOf = new WeakMap<Events, ReadonlySet<number>>();
  const ranges = (events: Events): ReadonlySet<number> => {
    const known = rangesOf.get(events);
    if (known) return known;
    const rows = findBendRanges(events);
    rangesOf.set(events, rows);
    return rows;
  };
  return (events, row) => {
    const kind = kindOf(events, row);
    if (kind !== 'controller') return takesKind(take, kind);
    const number = events.data1[row]!;
    if (without.has(number)) return false;
    if (takesController(take, number)) return true;
    // The range that bends are heard in goes with them (RPN 0).
    return take.bend && isParameterController(number) && ranges(events).has(row);
  };
}

function takesKind(take: Leaving, kind: EventKind): boolean {
  switch (kind) {
    case 'tempo':
      return take.tempo;
    case 'meter':
      return take.meters;
    case 'key signature':
      return take.keys;
    case 'marker':
    case 'cue point':
      return take.markers !== 'none';
    case 'text':
      return take.texts;
    case 'lyric':
      return take.lyrics;
    case 'timecode':
      return take.timecode;
    case 'copyright':
      return take.copyright;
    case 'program':
      return take.programs;
    case 'pitch bend':
      return take.bend;
    case 'key pressure':
    case 'channel pressure':
      return take.pressure;
    case 'exclusive':
      return take.exclusive;
    case 'sequencer-specific':
      return take.specific;
    case 'channel prefix':
    case 'port':
      return take.ports;
    case 'track name':
      return take.trackNames;
    case 'instrument name':
    case 'program name':
    case 'device name':
      return take.instrumentNames;
    default:
      return true;
  }
}

/** By its number (MIDI 1.0, table III): the bank goes with programs; what has a setting of its own by that. */
export function takesController(take: Leaving, number: number): boolean {
  if (number === 0 || number === 32) return take.programs;
  if (number === 7 || number === 39) return take.volume;
  if (number === 10 || number === 42) return take.pan;
  if (number === 91) return take.reverb;
  if (number === 93) return take.chorus;
  return take.controllers;
}

/** Data entry, increment, decrement, and what selects NRPN and RPN (MIDI 1.0). */
const isParameterController = (number: number): boolean =>
  number === 6 || number === 38 || (number >= 96 && number <= 101);

/** Rows that select pitch bend sensitivity (RPN 0 0), enter it, or close it with null, channel by channel. */
function findBendRanges(events: Events): Set<number> {
  const rows = new Set<number>();
  const selected = Array.from({ length: 16 }, () => ({ msb: -1, lsb: -1, registered: false }));
  for (let row = 0; row < events.count; row++) {
    if (events.status[row]! >> 4 !== 0xb) continue;
    const [number, value] = [events.data1[row]!, events.data2[row]!];
    if (!isParameterController(number)) continue;
    const now = selected[events.status[row]! & 15]!;
    if (number >= 98) {
      if (now.registered !== number >= 100)
        Object.assign(now, { msb: -1, lsb: -1, registered: number >= 100 });
      if (number % 2 === 1) now.msb = row;
      else now.lsb = row;
      if (number >= 100 && value === 127) rows.add(row);
    } else if (
      now.registered &&
      now.msb >= 0 &&
      now.lsb >= 0 &&
      events.data2[now.msb] === 0 &&
      events.data2[now.lsb] === 0
    )
      rows.add(now.msb).add(now.lsb).add(row);
  }
  return rows;
}

/** Whether the settings leave a song as it is: then nothing of it need be asked for. */
export function touchesNothing(take: Leaving): boolean {
  const { markers, without, channels, ...kinds } = take;
  return (
    markers === 'as they are' &&
    without.length === 0 &&
    channels === 'as they are' &&
    Object.values(kinds).every((taken) => taken)
  );
}

/** The payload of a row in hexadecimal. */
export const payloadHex = (events: Events, row: number): string =>
  Array.from(payloadOf(events, row), (byte) => byte.toString(16).padStart(2, '0')).join('');
