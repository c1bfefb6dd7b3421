import { describe, expect, it } from 'vitest';
import { costRatio, fourfoldLimit } from '../../tests/support/cost.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { guessesOf } from './guess.ts';
import { namedIn } from '../instruments/names.ts';

const name = (says: string): EventValue => metaEvent(0, meta.trackName, encodeText(says));
/** A note on each of some quarters. */
const every = (quarters: number, keys: readonly number[], length: number, channel = 0) =>
  Array.from({ length: 16 }, (_, n) =>
    note(n * quarters * 96, length, keys[n % keys.length]!, 80, channel),
  ).flat();

describe('what a name says', () => {
  // Dictionaries of music, from memory; the families of RP-003.
  it.each([
    ['Violine 1', 40],
    ['Bratsche', 41],
    ['Klarinette in B', 71],
    ['Trompete 2', 56],
    ['Flûte', 73],
    ['Hautbois', 68],
    ['Cordes', 48],
    ['Flauto', 73],
    ['Tromba', 56],
    ['Archi', 48],
    ['Guitarra', 27],
    ['Bajo', 33],
    ['Baixo', 33],
    ['Fluit', 73],
    ['Dragspel / Accordion', 21],
    ['E-Bass', 33],
    ['Gtr. L', 27],
    ['Vln II', 40],
    ['Bass Clarinet', 71],
    ['Double Bass', 43],
  ])('%s', (says, program) => {
    const named = namedIn(says);
    expect([named?.drums, named?.program]).toEqual([false, program]);
  });

  it.each(['Drums', 'Schlagzeug', 'Batterie', 'Batería', 'Slagverk', 'Perc. 2', 'Snare'])(
    '%s is drums',
    (says) => expect(namedIn(says)?.drums).toBe(true),
  );

  it.each(['', 'Track 4', 'MIDI out #3', 'Part-01', 'Melody'])('“%s” says nothing', (says) =>
    expect(namedIn(says)).toBeUndefined(),
  );
});

describe('what may play a part', () => {
  it('is three for each part with notes, the best first, none for others; with reasons where there are any', () => {
    const song = songOf([name('Map')], every(1, [60, 64, 67], 90), every(2, [40], 90, 1));
    const [map, ...parts] = guessesOf(song);
    expect(map).toEqual({ id: 't1', role: undefined, guesses: [] });
    for (const { guesses } of parts) {
      expect(guesses).toHaveLength(3);
      expect(new Set(guesses.map((g) => g.family)).size).toBe(3);
      expect([...guesses].sort((a, b) => b.sure - a.sure)).toEqual(guesses);
      expect(guesses.reduce((sum, g) => sum + g.sure, 0)).toBeLessThanOrEqual(1.011);
    }
  });

  it('a name beats the notes, a channel of drums all, a program what is typical of its family', () => {
    const song = songOf([name('Oboe'), ...every(1, [72, 74, 76], 90)], every(1, [70, 72], 90, 9), [
      channelEvent(0, 0xc0, 66),
      ...every(1, [60, 62], 90),
    ]);
    const best = guessesOf(song).map(({ guesses: [g] }) => [g!.name, g!.why[0]]);
    expect(best).toEqual([
      ['Oboe', 'its name says “oboe”'],
      ['Standard kit', 'it is on channel 10, where drums are'],
      ['Tenor Sax', 'its program is Tenor Sax'],
    ]);
  });

  it('tells drums on any channel, and a bass, by their notes alone', () => {
    const kit = Array.from({ length: 32 }, (_, n) => [
      ...note(n * 48, 12, 42, 80, 3),
      ...(n % 4 === 0 ? note(n * 48, 12, 36, 100, 3) : []),
      ...(n % 4 === 2 ? note(n * 48, 12, 38, 100, 3) : []),
    ]).flat();
    const bass = [33, 33, 40, 33, 31, 31, 38, 43].flatMap((key, n) => [
      ...note(n * 144, n % 2 ? 48 : 130, key, 80, 1),
      ...note(1152 + n * 96, n % 3 ? 90 : 60, key + 5, 80, 1),
    ]);
    const chords = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
      [60, 64, 67, 71].flatMap((key) => note(n * 192, 180, key, 70, 2)),
    );
    const [drums, low] = guessesOf(songOf(kit, bass, chords));
    expect([drums!.role, drums!.guesses[0]!.drums]).toEqual(['drums', true]);
    expect([low!.role, low!.guesses[0]!.family]).toEqual(['bass', 'Bass']);
    expect(low!.guesses[0]!.why).toContain('it is the lowest of the parts');
  });

  it('of a song of eighty tracks costs no more than its tracks do, four times those of twenty', () => {
    const guess = (many: number) => {
      const tracks = Array.from({ length: many }, (_, n) =>
        Array.from({ length: 60 }, () => every(1, [20 + n, 23 + n, 27 + n], 90, n % 16)).flat(),
      );
      const song = songOf(...tracks);
      return () => guessesOf({ ...song });
    };
    expect(costRatio(guess(20), guess(80), fourfoldLimit)).toBeLessThan(fourfoldLimit);
  });
});
