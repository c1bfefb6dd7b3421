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
  private readonly sings: boolean;

  /** @param sings lyrics leave as texts of a karaoke file: what is sung is the same in either */
  constructor(sings = false) {
    this.sings = sings;
  }

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
    const isWord = this.sings && (events.data1[row] === 5 || events.data1[row] === 1);
    const key = isWord ? sungWord(said) : `${status} ${events.data1[row]} ${said}`;
    let number = this.numbers.get(key);
    if (number === undefined) this.numbers.set(key, (number = -2 - this.numbers.size));
    return number;
  }
}

/**
 * What is sung of a lyric or of a text of a karaoke file: without the ends of lines, which a lyric says by
 * carriage returns and line feeds behind it (RP-017, from memory), and such a text by a stroke before it
 * (common practice).
 */
export const sungWord = (said: string): string =>
  said.replace(/[\r\n]+/g, '').replace(/^[\\/]/, '');

/** What a text says; undefined of what is none. */
export function textAt(
  events: Events,
  row: number,
  encoding: TextEncodingName,
): string | undefined {
  return isTextRow(events, row) ? readText(payloadOf(events, row), encoding) : undefined;
}
