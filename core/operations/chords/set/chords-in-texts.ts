import { readChord } from '../../../harmony/read-chord.ts';
import type { ChordPoint } from '../../../harmony/typed-chords.ts';
import { META, meta, payloadOf } from '../../../smf/events.ts';
import { decodeText, type TextEncodingName } from '../../../smf/text.ts';
import type { TickSpan } from '../../../song/scope.ts';
import type { Track } from '../../../song/song.ts';
import { chordIn } from '../../../timing/chord-texts.ts';

/** Of the lyrics of a track so many must be symbols: “A” and “Am” are words as well. */
const leastShare = 0.5;

/** What stands in a text: a symbol of the chord line, one in brackets before a syllable, or bare. */
interface Said extends ChordPoint {
  readonly how: 'chord line' | 'brackets' | 'bare';
  readonly lyric: boolean;
}

/** The lyrics and texts of tracks that are chord symbols, and those of the chord line that are none. */
export function chordsInTexts(
  tracks: readonly Track[],
  span: TickSpan,
  encoding: TextEncodingName,
): { points: ChordPoint[]; unread: string[] } {
  const points: ChordPoint[] = [];
  const unread: string[] = [];
  for (const { events } of tracks) {
    const found: Said[] = [];
    let lyrics = 0;
    for (let row = 0; row < events.count; row++) {
      const type = events.data1[row];
      if (events.status[row] !== META || (type !== meta.text && type !== meta.lyric)) continue;
      const atTick = events.atTick[row]!;
      if (atTick < span.from || atTick >= span.to) continue;
      const said = decodeText(payloadOf(events, row), encoding).trim();
      const lyric = type === meta.lyric;
      if (lyric && said !== '') lyrics++;
      const { symbol, how } = symbolIn(said);
      const read = readChord(symbol);
      if (read) found.push({ atTick, text: read.text, how, lyric });
      else if (how === 'chord line') unread.push(said);
    }
    const bare = found.filter((f) => f.how === 'bare' && f.lyric).length;
    const meant = (f: Said): boolean => f.how !== 'bare' || !f.lyric || bare >= lyrics * leastShare;
    points.push(...found.filter(meant).map(({ atTick, text }) => ({ atTick, text })));
  }
  return { points: points.sort((a, b) => a.atTick - b.atTick), unread };
}

function symbolIn(said: string): { symbol: string; how: Said['how'] } {
  const ofLine = chordIn(said);
  if (ofLine !== undefined) return { symbol: ofLine, how: 'chord line' };
  const bracketed = /^\[([^\]\s]+)\]/.exec(said)?.[1];
  return bracketed === undefined
    ? { symbol: /\s/.test(said) ? '' : said, how: 'bare' }
    : { symbol: bracketed, how: 'brackets' };
}
