import { readEdl } from '../timing/edl.ts';
import { framesAt } from '../timing/start-timecode.ts';
import { secondsToTicks } from '../timing/tempo-map.ts';
import type { Maps, TimedSong } from '../song/maps.ts';
import { emptyList, type ListRead, type PlainPlaces } from './list-read.ts';
import { readCsv } from './map-csv.ts';
import { isMidi, readMidiMap } from './map-midi.ts';

/** A file that may hold places. */
export interface ListFile {
  readonly name: string;
  readonly bytes: Uint8Array;
}

/**
 * What a file of any kind gives: a MIDI file, an edit decision list, or comma-separated values. `instead`:
 * in place of what the song has.
 */
export function readList(
  { name, bytes }: ListFile,
  song: TimedSong,
  maps: Maps,
  instead: boolean,
  plain?: PlainPlaces,
): ListRead {
  if (isMidi(name, bytes)) return readMidiMap(bytes, song);
  const text = listText(bytes);
  return isEdl(name, text)
    ? readEdlList(text, song, maps)
    : readCsv(text, song, maps, instead, plain);
}

/**
 * A list as text: UTF-16 where a byte order mark says so, as spreadsheets write it, UTF-8 where it is that,
 * else Windows-1252.
 */
function listText(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** Markers of an edit decision list; the song has to say where it stands in timecode. */
export function readEdlList(text: string, { timing }: TimedSong, { tempo }: Maps): ListRead {
  const { timecode } = timing;
  if (!timecode)
    return {
      ...emptyList(),
      faults: [
        {
          line: 0,
          why: 'the song states no start timecode that this list could be laid against: set it first',
        },
      ],
    };
  const { places, faults } = readEdl(text, timecode.rate, framesAt(timecode, tempo, 0));
  return {
    ...emptyList(),
    marks: places.map((p) => ({
      atTick: secondsToTicks(tempo, p.seconds),
      kind: 'marker',
      text: p.text.slice(0, 500),
      anchor: 'time',
    })),
    faults: [...faults],
  };
}

export const isEdl = (name: string, text: string): boolean =>
  /\.edl$/i.test(name) || /^\s*(TITLE:|FCM:)/i.test(text);
