import { keySwitchesOf } from '../instruments/key-switches.ts';
import { notesOf } from '../song/notes.ts';
import type { TickSpan } from '../song/scope.ts';
import type { Track } from '../song/song.ts';
import type { PartNote } from './part-notes.ts';
import { within } from './rewrite.ts';

/** Settings of a step that makes parts: whether key switches go along. */
export const switchesMeta = {
  title: 'Key switches go along',
  description:
    'Where the instrument’s definition names them: at their own keys, and counted as no notes.',
};

/** The key switches of a part in a span, at their places and on their own keys. */
export function switchesIn({ events, instrument }: Track, span: TickSpan): PartNote[] {
  const named = keySwitchesOf(instrument);
  if (named.size === 0) return [];
  const { count, on, off } = notesOf(events);
  const found: PartNote[] = [];
  for (let n = 0; n < count; n++) {
    const row = on[n]!;
    const [key, from] = [events.data1[row]!, events.atTick[row]!];
    if (!named.has(key) || !within(span, events, row)) continue;
    found.push({ of: n, key, from, to: off[n] === -1 ? from + 1 : events.atTick[off[n]!]! });
  }
  return found;
}

/** What became of key switches, in words for a report; undefined where there are none. */
export const switchWords = (count: number, along: boolean): string | undefined =>
  count === 0
    ? undefined
    : `${count.toLocaleString('en')} key switch${count === 1 ? '' : 'es'} ${along ? 'along' : count === 1 ? 'stays' : 'stay'}`;
