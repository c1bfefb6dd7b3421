import { controllerName } from '../instruments/controllers.ts';
import { percussionChannel, programNames } from '../instruments/general-midi.ts';
import { META, meta, payloadOf, type Events } from '../smf/events.ts';
import { isBridge } from '../smf/bridges.ts';
import { decodeText, type TextEncodingName } from '../smf/text.ts';
import { keyName, tempoToBpm } from '../units/units.ts';
import { keySignatureText } from './key-names.ts';
import { isChordEvent, statedTimecode, isTimed, stays } from '../smf/own-events.ts';
import { chordIn } from '../timing/chord-texts.ts';
import { shownText } from './song.ts';

/** An event in words: what it is, and its value by name. */
export interface EventWords {
  readonly what: string;
  readonly value: string;
}

const metaNames: Readonly<Record<number, string>> = {
  [meta.sequenceNumber]: 'Sequence number',
  [meta.text]: 'Text',
  [meta.copyright]: 'Copyright',
  [meta.trackName]: 'Track name',
  [meta.instrumentName]: 'Instrument name',
  [meta.lyric]: 'Lyric',
  [meta.marker]: 'Marker',
  [meta.cuePoint]: 'Cue point',
  [meta.programName]: 'Program name',
  [meta.deviceName]: 'Device name',
  [meta.channelPrefix]: 'Channel prefix',
  [meta.port]: 'Port',
  [meta.endOfTrack]: 'End of track',
  [meta.tempo]: 'Tempo',
  [meta.smpteOffset]: 'SMPTE offset',
  [meta.timeSignature]: 'Meter',
  [meta.keySignature]: 'Key signature',
  [meta.sequencerSpecific]: 'Sequencer-specific',
};

/** Percussion keys of General MIDI that have a name, 35–81 (RP-003; from memory). */
const drums =
  'Acoustic Bass Drum,Bass Drum 1,Side Stick,Acoustic Snare,Hand Clap,Electric Snare,Low Floor Tom,Closed Hi-hat,High Floor Tom,Pedal Hi-hat,Low Tom,Open Hi-hat,Low-Mid Tom,Hi-Mid Tom,Crash Cymbal 1,High Tom,Ride Cymbal 1,Chinese Cymbal,Ride Bell,Tambourine,Splash Cymbal,Cowbell,Crash Cymbal 2,Vibra-slap,Ride Cymbal 2,High Bongo,Low Bongo,Mute High Conga,Open High Conga,Low Conga,High Timbale,Low Timbale,High Agogo,Low Agogo,Cabasa,Maracas,Short Whistle,Long Whistle,Short Guiro,Long Guiro,Claves,High Wood Block,Low Wood Block,Mute Cuica,Open Cuica,Mute Triangle,Open Triangle'.split(
    ',',
  );

/** What a key is called on a channel: a drum on the tenth, a note elsewhere. */
export function keyWords(key: number, channel: number, middleC: number): string {
  return channel === percussionChannel ? (drums[key - 35] ?? `key ${key}`) : keyName(key, middleC);
}

export function eventWords(
  events: Events,
  i: number,
  encoding: TextEncodingName,
  middleC = 4,
): EventWords {
  const status = events.status[i]!;
  if (status === META)
    return (
      ownWords(events, i, encoding) ?? metaWords(events.data1[i]!, payloadOf(events, i), encoding)
    );
  if (status >= 0xf0)
    return {
      what: status === 0xf0 ? 'System exclusive' : 'System exclusive packet',
      value: `${payloadOf(events, i).length} bytes`,
    };
  const channel = status & 15;
  const [a, b] = [events.data1[i]!, events.data2[i]!];
  switch (status >> 4) {
    case 0x8:
      return { what: 'Note off', value: `${keyWords(a, channel, middleC)}, release velocity ${b}` };
    case 0x9:
      return {
        what: b === 0 ? 'Note off' : 'Note',
        value: `${keyWords(a, channel, middleC)}${b === 0 ? '' : `, velocity ${b}`}`,
      };
    case 0xa:
      return { what: 'Poly pressure', value: `${keyWords(a, channel, middleC)}, ${b}` };
    case 0xb:
      return { what: controllerName(a), value: String(b) };
    case 0xc:
      return {
        what: 'Program',
        value: channel === percussionChannel ? `${a + 1} drum kit` : `${a + 1} ${programNames[a]}`,
      };
    case 0xd:
      return { what: 'Channel pressure', value: String(a) };
    default:
      return { what: 'Pitch bend', value: String((a | (b << 7)) - 8192) };
  }
}

/** Events of our own, by what they stand for. */
function ownWords(events: Events, i: number, encoding: TextEncodingName): EventWords | undefined {
  if (isBridge(events, i))
    return { what: 'Wait', value: 'bridges a gap longer than a file can say at once' };
  if (isTimed(events, i))
    return { what: 'Belongs to time', value: 'the mark behind it stays at its time' };
  const kept = stays(events, i);
  if (isChordEvent(events, i))
    return {
      what: kept ? 'Chord, not sent' : 'Chord',
      value: chordIn(shownText(decodeText(kept?.text ?? payloadOf(events, i), encoding))) ?? '',
    };
  if (kept)
    return {
      what: `${metaNames[kept.type] ?? 'Text'}, not sent`,
      value: shownText(decodeText(kept.text, encoding)),
    };
  const said =
    events.data1[i] === meta.sequencerSpecific ? statedTimecode(payloadOf(events, i)) : undefined;
  return said && { what: 'Timecode', value: `${said.address} at ${said.rate} frames a second` };
}

function metaWords(type: number, b: Uint8Array, encoding: TextEncodingName): EventWords {
  const what = metaNames[type] ?? `Meta event ${type.toString(16).toUpperCase().padStart(2, '0')}`;
  if (type >= 1 && type <= 15) return { what, value: shownText(decodeText(b, encoding)) };
  if (type === meta.tempo && b.length === 3) {
    const tempo = (b[0]! << 16) | (b[1]! << 8) | b[2]!;
    return {
      what,
      value: `${Math.round(tempoToBpm(tempo) * 1000) / 1000} BPM (${tempo.toLocaleString('en')} µs)`,
    };
  }
  if (type === meta.timeSignature && b.length >= 2) return { what, value: `${b[0]}/${2 ** b[1]!}` };
  if (type === meta.keySignature && b.length === 2)
    return { what, value: keySignatureText((b[0]! << 24) >> 24, b[1] === 1) };
  if (type === meta.smpteOffset && b.length === 5) return { what, value: smpteText(b) };
  if (type === meta.endOfTrack) return { what, value: '' };
  return {
    what,
    value:
      Array.from(b.subarray(0, 24), (x) => x.toString(16).padStart(2, '0')).join(' ') +
      (b.length > 24 ? ' …' : ''),
  };
}

/** `01:00:00:00 at 25 frames a second`; `;` before the frames where they are drop-frame. */
function smpteText(b: Uint8Array): string {
  const rate = (b[0]! >> 5) & 3;
  const two = (n: number): string => String(n).padStart(2, '0');
  return `${two(b[0]! & 0x1f)}:${two(b[1]!)}:${two(b[2]!)}${rate === 2 ? ';' : ':'}${two(b[3]!)} at ${['24', '25', '29.97', '30'][rate]} frames a second`;
}

/** The bytes of the message, without the time before it and without the length of a payload. */
export function eventBytes(events: Events, i: number): string {
  const status = events.status[i]!;
  const head =
    status === META
      ? [status, events.data1[i]!]
      : status >= 0xf0
        ? [status]
        : (status & 0xe0) === 0xc0
          ? [status, events.data1[i]!]
          : [status, events.data1[i]!, events.data2[i]!];
  const payload = payloadOf(events, i);
  const text = [...head, ...payload.subarray(0, 16)]
    .map((x) => x.toString(16).toUpperCase().padStart(2, '0'))
    .join(' ');
  return payload.length > 16 ? `${text} …` : text;
}
