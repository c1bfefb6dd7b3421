import { describe, expect, it } from 'vitest';
import { songOf } from '../../../tests/support/songs.ts';
import { metaEvent, payloadOf } from '../../smf/events.ts';
import { decodeText, encodeText } from '../../smf/text.ts';
import { lengthsFormed } from './lengths.ts';

const text = (type: number, said: string) => metaEvent(0, type, encodeText(said));
/** Texts of all tracks after cutting, in order. Expected values are worked by hand. */
const cut = (
  tracks: readonly (readonly [type: number, said: string][])[],
  lengths: { longestName: number | null; longestMark: number | null },
): string[] =>
  lengthsFormed(
    songOf(...tracks.map((t) => t.map(([type, said]) => text(type, said)))),
    lengths,
  ).song.tracks.flatMap(({ events }) =>
    Array.from({ length: events.count - 1 }, (_, row) => decodeText(payloadOf(events, row))),
  );
const names = (said: readonly string[], longestName: number): string[] =>
  cut(
    said.map((name) => [[3, name]]),
    { longestName, longestMark: null },
  );

describe('names that are cut', () => {
  it('stay apart: two that begin alike get a number in the room there is', () => {
    expect(names(['Violin solo A', 'Violin solo B', 'Violin solo C'], 6)).toEqual([
      'Violin',
      'Violi2',
      'Violi3',
    ]);
  });

  it('stay apart from a name that was short enough, whether that comes before or later', () => {
    expect(names(['Violin', 'Violin solo'], 6)).toEqual(['Violin', 'Violi2']);
    expect(names(['Violin solo', 'Violin'], 6)).toEqual(['Violi2', 'Violin']);
  });

  it('are left alone at just that length, and end without a blank', () => {
    expect(names(['Violin', 'Viola da gamba'], 6)).toEqual(['Violin', 'Viola']);
  });

  it('of one track that says its name twice are cut alike', () => {
    expect(
      cut(
        [
          [
            [3, 'Long trumpet'],
            [3, 'Long trumpet'],
          ],
        ],
        { longestName: 4, longestMark: null },
      ),
    ).toEqual(['Long', 'Long']);
  });

  it('count symbols, not bytes: an accented letter and one beyond 16 bits are one each', () => {
    expect(names(['Flöte 1 solo', '𝄞𝄞𝄞𝄞'], 5)).toEqual(['Flöte', '𝄞𝄞𝄞𝄞']);
  });

  it('and marks that say the same are each cut to their own length', () => {
    const said = cut(
      [
        [
          [3, 'Dreamy organ'],
          [6, 'Dreamy organ'],
        ],
      ],
      { longestName: 8, longestMark: 6 },
    );
    expect(said).toEqual(['Dreamy o', 'Dreamy']);
  });

  it('cut marks by their own length, and no lyric or text', () => {
    const said = cut(
      [
        [
          [6, 'Chorus'],
          [7, 'Door shuts'],
          [5, 'la-la-la'],
          [1, 'slowly'],
        ],
      ],
      {
        longestName: null,
        longestMark: 4,
      },
    );
    expect(said).toEqual(['Chor', 'Door', 'la-la-la', 'slowly']);
  });
});
