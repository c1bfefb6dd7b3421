import { payloadOf, type Events } from '../../../smf/events.ts';
import type { TextEncodingName } from '../../../smf/text.ts';
import { isTextRow } from '../../proof/reading/event-kind.ts';
import { readText } from '../../proof/reading/read-text.ts';
import { toHex } from '../../../units/hex.ts';
import { lossOfRow } from './arrival.ts';
import type { Loss } from './outcome.ts';

/** Kinds that belong to the song, whatever track they stand in. */
const ofMap: ReadonlySet<Loss> = new Set([
  'tempo',
  'meters',
  'keys',
  'markers',
  'timecode',
  'copyright',
]);
/** Kinds that say something of a whole track, and go with any part of it. */
const aboutTrack: ReadonlySet<Loss> = new Set([
  'trackNames',
  'instrumentNames',
  'ports',
  'copyright',
  'timecode',
]);
/** Kinds that say the same wherever they stand. */
const anywhere: ReadonlySet<Loss> = new Set(['copyright', 'timecode']);

export const isOfMap = (loss: Loss): boolean => ofMap.has(loss);
export const isAboutTrack = (loss: Loss): boolean => aboutTrack.has(loss);
export const isAnywhere = (loss: Loss): boolean => anywhere.has(loss);

/** Texts and payloads by numbers, the same for what reads the same. */
export class Contents {
  private readonly numbers = new Map<string, number>();

  /**
   * What a row says, as a number. @param channels whether channels count
   */
  of(events: Events, row: number, encoding: TextEncodingName, channels: boolean): number {
    const status = events.status[row]!;
    if (status < 0xf0)
      return (
        ((channels ? status : status & 0xf0) << 16) | (events.data1[row]! << 8) | events.data2[row]!
      );
    if (lossOfRow(events, row) === 'timecode') return -1;
    const said = textAt(events, row, encoding) ?? toHex(payloadOf(events, row));
    const key = `${status} ${events.data1[row]} ${said}`;
    let number = this.numbers.get(key);
    if (number === undefined) this.numbers.set(key, (number = -2 - this.numbers.size));
    return number;
  }
}

/** What a text says; undefined of what is none. */
export function textAt(
  events: Events,
  row: number,
  encoding: TextEncodingName,
): string | undefined {
  return isTextRow(events, row) ? readText(payloadOf(events, row), encoding) : undefined;
}
