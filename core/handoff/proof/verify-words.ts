import { payloadOf } from '../../smf/events.ts';
import type { Song, Track } from '../../song/song.ts';
import { TickLists, type Difference } from './compare-ticks.ts';
import { isChosen, type PartCase } from './part-case.ts';
import { kindOf } from './reading/event-kind.ts';
import { mayLeave } from './reading/leaving.ts';
import { patternIn } from './reading/letters.ts';
import { readText } from './reading/read-text.ts';

const header = '@KMIDI KARAOKE FILE';

/** Whether a track of the file is one of words that was made for it: none of the song's, and it leads with `@K`. */
export function isWordsTrack({ song, leaving, wanted }: PartCase, id: string): boolean {
  if (wanted.form.format !== 'karaoke' || song.tracks.some((t) => t.id === id)) return false;
  const track = leaving.tracks.find((t) => t.id === id);
  return track !== undefined && textsOf(track, leaving).some(({ text }) => text === header);
}

interface TimedText {
  readonly text: string;
  readonly tick: number;
}

function textsOf({ events }: Track, song: Song): TimedText[] {
  const found: TimedText[] = [];
  for (let row = 0; row < events.count; row++)
    if (kindOf(events, row) === 'text')
      found.push({
        text: readText(payloadOf(events, row), song.encoding),
        tick: events.atTick[row]!,
      });
  return found;
}

/**
 * The words of a file in karaoke order (common practice): `@K` leads, then the language and the title, then
 * each syllable of the song as a text where it is sung, a page or line sign before it or none.
 */
export function verifyWords(of: PartCase): Difference[] {
  const { song, leaving, wanted, places } = of;
  if (wanted.form.format !== 'karaoke') return [];
  const words = leaving.tracks.find((t) => isWordsTrack(of, t.id));
  const leaves = mayLeave(wanted.take);
  const { from, to } = places.span;
  const [expected, found] = [new TickLists(), new TickLists()];
  let syllables = 0;
  for (const track of song.tracks) {
    const { events } = track;
    if (!isChosen(of, track)) continue;
    for (let row = 0; row < events.count; row++) {
      const tick = events.atTick[row]!;
      if (kindOf(events, row) !== 'lyric' || !leaves(events, row) || tick < from || tick >= to)
        continue;
      const text = bareSyllable(readText(payloadOf(events, row), song.encoding));
      if (text === '') continue;
      syllables++;
      if (patternIn(text, wanted.form.text)) continue;
      for (let time = 0; time < places.times; time++)
        expected.add('song', `syllable ${text}`, places.at(tick, time));
    }
  }
  if (!words) return syllables === 0 || hasOwnWords(of) ? [] : [missing(`${syllables} syllables`)];
  const texts = textsOf(words, leaving);
  const heading = [header, ...(wanted.form.language ? [`@L${wanted.form.language}`] : [])];
  for (const { text, tick } of texts)
    if (!text.startsWith('@')) found.add('song', `syllable ${bareSyllable(text)}`, tick);
  return [
    ...heading.filter((line, n) => texts[n]?.text !== line).map(missing),
    ...(texts[heading.length]?.text.startsWith('@T') ? [] : [missing('@T and the title')]),
    ...expected.compare(found, places.reach).filter((d) => d.state === 'lacks'),
  ];
}

const missing = (what: string): Difference => ({ state: 'lacks', owner: 'song', what, tick: 0 });

const bareSyllable = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[\r\n]+/g, '')
    .replace(/^[\\/]/, '');

/** Words that stand in karaoke order already leave as they are. */
const hasOwnWords = ({ leaving }: PartCase): boolean =>
  leaving.tracks.some((t) => textsOf(t, leaving).some(({ text }) => text.startsWith('@K')));
