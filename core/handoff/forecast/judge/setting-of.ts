import type { Events } from '../../../smf/events.ts';
import { kindOf, type EventKind } from '../../proof/reading/event-kind.ts';

/** The kinds of event that people choose by, as the settings of a handoff name them. */
export type Setting =
  | 'tempo'
  | 'meters'
  | 'keys'
  | 'markers'
  | 'sections'
  | 'texts'
  | 'lyrics'
  | 'timecode'
  | 'copyright'
  | 'programs'
  | 'volume'
  | 'pan'
  | 'reverb'
  | 'chorus'
  | 'controllers'
  | 'bend'
  | 'pressure'
  | 'exclusive'
  | 'specific'
  | 'ports'
  | 'trackNames'
  | 'instrumentNames';

const settings: Readonly<Partial<Record<EventKind, Setting>>> = {
  tempo: 'tempo',
  meter: 'meters',
  'key signature': 'keys',
  marker: 'markers',
  'cue point': 'markers',
  text: 'texts',
  lyric: 'lyrics',
  timecode: 'timecode',
  copyright: 'copyright',
  program: 'programs',
  'pitch bend': 'bend',
  'key pressure': 'pressure',
  'channel pressure': 'pressure',
  exclusive: 'exclusive',
  'sequencer-specific': 'specific',
  'channel prefix': 'ports',
  port: 'ports',
  'track name': 'trackNames',
  'instrument name': 'instrumentNames',
  'program name': 'instrumentNames',
  'device name': 'instrumentNames',
};

/** By number (MIDI 1.0, table III). */
const controllers: Readonly<Record<number, Setting>> = {
  0: 'programs',
  32: 'programs',
  7: 'volume',
  39: 'volume',
  10: 'pan',
  42: 'pan',
  91: 'reverb',
  93: 'chorus',
};

/** What people call a row by; undefined of notes, ends of tracks and what no setting names. */
export function settingOf(events: Events, row: number): Setting | undefined {
  const kind = kindOf(events, row);
  if (kind === 'controller') return controllers[events.data1[row]!] ?? 'controllers';
  return settings[kind];
}
