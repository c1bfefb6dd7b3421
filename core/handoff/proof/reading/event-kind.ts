import { payloadOf, type Events } from '../../../smf/events.ts';
import { readKeptMark, isBridge, statedTimecode } from './own-words.ts';

/**
 * Names every event by its bytes. The proof's own table, shared with nothing that makes files (MIDI 1.0,
 * table I; SMF 1.0, meta events; 21 is common practice).
 */
export type EventKind =
  | 'note off'
  | 'note on'
  | 'key pressure'
  | 'controller'
  | 'program'
  | 'channel pressure'
  | 'pitch bend'
  | 'exclusive'
  | 'sequence number'
  | 'text'
  | 'copyright'
  | 'track name'
  | 'instrument name'
  | 'lyric'
  | 'marker'
  | 'cue point'
  | 'program name'
  | 'device name'
  | 'channel prefix'
  | 'port'
  | 'end of track'
  | 'tempo'
  | 'timecode'
  | 'meter'
  | 'key signature'
  | 'sequencer-specific'
  | 'bridge'
  | 'other';

const metaKinds: Readonly<Record<number, EventKind>> = {
  0x00: 'sequence number',
  0x01: 'text',
  0x02: 'copyright',
  0x03: 'track name',
  0x04: 'instrument name',
  0x05: 'lyric',
  0x06: 'marker',
  0x07: 'cue point',
  0x08: 'program name',
  0x09: 'device name',
  0x20: 'channel prefix',
  0x21: 'port',
  0x2f: 'end of track',
  0x51: 'tempo',
  0x54: 'timecode',
  0x58: 'meter',
  0x59: 'key signature',
};

const channelKinds: readonly EventKind[] = [
  'note off',
  'note on',
  'key pressure',
  'controller',
  'program',
  'channel pressure',
  'pitch bend',
];

/** The kind of a row; a note-on of velocity 0 is a note-off (MIDI 1.0). */
export function kindOf(events: Events, row: number): EventKind {
  const status = events.status[row]!;
  if (status < 0xf0) {
    if (status >> 4 === 9 && events.data2[row] === 0) return 'note off';
    return channelKinds[(status >> 4) - 8] ?? 'other';
  }
  if (status !== 0xff) return status === 0xf0 || status === 0xf7 ? 'exclusive' : 'other';
  if (events.data1[row] !== 0x7f) return metaKinds[events.data1[row]!] ?? 'other';
  const payload = payloadOf(events, row);
  if (isBridge(payload)) return 'bridge';
  const kept = readKeptMark(payload);
  if (kept) return metaKinds[kept.type] ?? 'other';
  return statedTimecode(payload) ? 'timecode' : 'sequencer-specific';
}

/** Whether a row is a text of a person (meta 01 to 0F, SMF 1.0). */
export const isTextRow = (events: Events, row: number): boolean =>
  events.status[row] === 0xff && events.data1[row]! >= 1 && events.data1[row]! <= 15;
