import { describe, expect, it } from 'vitest';
import { controller, note, songOf } from '../../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import type { Song } from '../../song/song.ts';
import { mergedSettings } from '../receiver/merged.ts';
import { limitsSchema, type Limits } from '../receiver/receiver.ts';
import { settingsFor } from '../receiver/settings-for.ts';
import { songFacts } from '../receiver/song-facts.ts';
import type { HandoffAsked } from '../settings.ts';
import { forecastOf } from './forecast.ts';
import type { ForecastItem } from './item.ts';

const tempo = (tick: number, micros: number): EventValue =>
  metaEvent(tick, meta.tempo, Uint8Array.of(micros >> 16, (micros >> 8) & 255, micros & 255));
const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));

function forecast(song: Song, takes: Partial<Limits>, by: HandoffAsked = {}): ForecastItem[] {
  const limits = limitsSchema.parse(takes);
  const receiver = {
    name: 'R',
    about: '',
    takes: limits,
    divide: 'whole',
    packed: 'files',
    recipe: null,
  } as const;
  const made = forecastOf(song, mergedSettings(settingsFor(receiver, songFacts(song)), by), limits);
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
}
const only = (items: readonly ForecastItem[], what: string): ForecastItem => {
  const found = items.filter((i) => i.what === what);
  expect(items.map((i) => i.what)).toContain(what);
  expect(found).toHaveLength(1);
  return found[0]!;
};

/** A bar at 120 BPM, then 60: the note on the second beat of bar 2 sounds at 2 + 1 s; at 120 throughout at 2.5 s (by hand). */
const slower = songOf(
  [tempo(0, 500_000), tempo(384, 1_000_000), text(384, meta.marker, 'Slower')],
  [text(0, meta.trackName, 'Violin one'), ...note(0, 90, 60), ...note(480, 90, 62)],
);

describe('what a forecast says', () => {
  it('how far off music is for who follows no tempo, by hand: half a second; placed anew it is not', () => {
    const drift = only(forecast(slower, { tempo: 'none' }), 'time');
    expect([drift.count, drift.says]).toEqual([
      1,
      '1 event sounds earlier or later, up to 500.00 ms',
    ]);
    expect([drift.tracks, drift.bars]).toEqual([['t2'], [{ from: 2, to: 2 }]]);
    const { setting } = drift.remedy as { setting: HandoffAsked };
    const after = forecast(slower, { tempo: 'none' }, setting);
    expect(after.map((i) => i.what)).not.toContain('time');
    // Placed anew at 120 it stands two beats of 96 ticks later than its bar says.
    expect(only(after, 'places').count).toBe(1);
  });

  it('which tempos are passed over: of five in a second, four where one a second is followed', () => {
    const dense = songOf(
      [0, 1, 2, 3, 4].map((n) => tempo(n * 38, 500_000 + n)),
      note(0, 96, 60),
    );
    const lost = only(forecast(dense, { temposASecond: 1 }, { form: { steps: null } }), 'tempo');
    expect([lost.arrives, lost.by, lost.count]).toEqual(['not', 'receiver', 4]);
  });

  it('a tempo, meter or key that repeats the one in force is no loss to who takes one, or none', () => {
    const meter = (tick: number, beats: number): EventValue =>
      metaEvent(tick, meta.timeSignature, Uint8Array.of(beats, 2, 24, 8));
    const key = (tick: number, sharps: number): EventValue =>
      metaEvent(tick, meta.keySignature, Uint8Array.of(sharps, 0));
    const map = [0, 384, 768].flatMap((t) => [tempo(t, 600_000), meter(t, 4), key(t, 2)]);
    const restated = songOf(map, [...note(0, 90, 60), ...note(800, 90, 62)]);
    expect(forecast(restated, { tempo: 'one' })).toEqual([]);
    const none = forecast(restated, { tempo: 'none', meters: false, keys: false });
    const lost = none.filter((i) => i.arrives === 'not').map((i) => [i.what, i.count]);
    expect(Object.fromEntries(lost)).toEqual({ tempo: 1, meters: 1, keys: 1 });
    // Two beats into bar 1 another bar begins (SMF 1.0: a meter begins a bar); the tempo there is another.
    const changed = songOf(
      [meter(0, 4), meter(192, 4), tempo(0, 600_000), tempo(192, 500_000), tempo(384, 600_000)],
      note(0, 90, 60),
    );
    const asItIs = { form: { tempo: 'as it is' } } as const;
    const real = forecast(changed, { tempo: 'one', meters: false }, asItIs);
    expect([only(real, 'meters').count, only(real, 'tempo').count]).toEqual([2, 2]);
  });

  it('a tempo that is repeated does not keep the change after it from being followed', () => {
    // At 120 BPM a quarter (96 ticks) lasts 0.5 s: the change at tick 112 comes 83 ms after the repetition.
    const song = songOf(
      [tempo(0, 500_000), tempo(96, 500_000), tempo(112, 600_000)],
      [...note(0, 90, 60), ...note(480, 90, 62)],
    );
    expect(forecast(song, { temposASecond: 4 })).toEqual([]);
    // Here the change comes 0.5 s after the first tempo, which is just what two a second follows.
    const exact = songOf(
      [tempo(0, 500_000), tempo(48, 500_000), tempo(96, 600_000)],
      [...note(0, 90, 60), ...note(480, 90, 62)],
    );
    expect(forecast(exact, { temposASecond: 2 })).toEqual([]);
  });

  it('marks of the other kind arrive as the kind that is shown; left as they are they do not', () => {
    const shown = { marks: ['cue points'] } as const;
    expect(only(forecast(slower, { ...shown, marks: [...shown.marks] }), 'markers').arrives).toBe(
      'changed',
    );
    const as = { markers: 'as they are' } as const;
    const lost = only(forecast(slower, { marks: ['cue points'] }, { take: as }), 'markers');
    expect([lost.arrives, lost.count, lost.remedy?.says]).toEqual([
      'not',
      1,
      'Let them leave as cue points',
    ]);
  });

  it('names are cut where the receiver cuts them, and said', () => {
    const cut = only(forecast(slower, { nameLetters: 6 }), 'trackNames');
    expect([cut.arrives, cut.count, cut.remedy]).toMatchObject([
      'changed',
      1,
      {
        step: {
          operation: 'tracks.rename',
          settings: { name: 'Violin' },
          scope: { tracks: ['t2'] },
        },
      },
    ]);
  });

  it('a key that is struck again without a gap is not heard; the gap is a step on the copy', () => {
    const repeats = songOf([tempo(0, 500_000)], [...note(0, 96, 60), ...note(96, 96, 60)]);
    expect(forecast(repeats, { gap: 20 }).map((i) => i.what)).toEqual(['lengths']);
    const lost = only(forecast(repeats, { gap: 20 }, { recipe: null }), 'gap');
    expect([lost.count, lost.bars]).toEqual([1, [{ from: 1, to: 1 }]]);
  });

  it('a note that ends a single tick sooner is said', () => {
    const song = songOf([tempo(0, 500_000)], note(0, 96, 60));
    const steps = [{ operation: 'notes.lengths', settings: { percent: 99 } }];
    expect(only(forecast(song, {}, { recipe: { name: 'Short', steps } }), 'lengths').count).toBe(1);
  });

  it('key switches are heard as notes where nobody takes them out', () => {
    const played = Array.from({ length: 12 }, (_, n) => note(n * 48, 40, 60 + (n % 5))).flat();
    const song = songOf([tempo(0, 500_000)], [...note(0, 10, 24), ...played]);
    const said = only(forecast(song, { keySwitches: false }, { recipe: null }), 'keySwitches');
    expect(said.count).toBe(1);
    expect(only(forecast(song, { keySwitches: false }), 'notes')).toMatchObject({
      arrives: 'not',
      count: 1,
    });
  });

  it('an event that arrives in one of several files arrives', () => {
    const two = songOf(
      [tempo(0, 500_000)],
      [controller(0, 7, 90), ...note(0, 96, 60)],
      [channelEvent(0, 0xc1, 5), ...note(0, 96, 64, 80, 1)],
    );
    expect(forecast(two, {}, { divide: 'tracks' })).toEqual([]);
    const some = forecast(two, {}, { divide: 'tracks', tracks: ['t2'] });
    expect(only(some, 'chosenTracks')).toMatchObject({ count: 2, tracks: ['t3'] });
  });

  it('what is on channels above the last is not heard, and goes to a free one if it may', () => {
    const high = songOf([tempo(0, 500_000)], note(0, 96, 60, 80, 14));
    expect(forecast(high, { channels: 4 }).map((i) => i.what)).toEqual(['channels']);
    const as = { channels: 'as they are' } as const;
    expect(only(forecast(high, { channels: 4 }, { take: as }), 'highChannels').count).toBe(2 - 1);
  });
});

describe('words for who shows them in karaoke order', () => {
  const sung = songOf(
    [tempo(0, 500_000)],
    [
      ...['Lan', 'tern\r', 'low\n', 'row'].flatMap((said, n) => [
        text(n * 96, meta.lyric, said),
        ...note(n * 96, 90, 60),
      ]),
    ],
  );

  it('arrive: a lyric is the text of the karaoke file that sings it, with its line ends and strokes', () => {
    expect(forecast(sung, { formats: ['karaoke'] })).toEqual([]);
  });

  it('that were left out are said, and no remedy makes a file of them that is not opened', () => {
    const left = only(
      forecast(sung, { formats: ['karaoke'] }, { take: { lyrics: false } }),
      'lyrics',
    );
    expect([left.says, left.why, left.remedy]).toEqual([
      '4 syllables do not arrive',
      'Words that are sung here are missing there.',
      { says: 'Send them', setting: { take: { lyrics: true, without: [] } } },
    ]);
    const noTexts = { words: false, marks: [], sections: false };
    const unread = only(forecast(sung, { formats: ['karaoke'], ...noTexts }), 'texts');
    expect(unread.remedy).toBeNull();
  });

  it('files that are not opened are counted as files, and no remedy leads there', () => {
    const shut = forecast(sung, { formats: ['karaoke'] }, { form: { format: 1 } });
    expect(shut.map((i) => i.says)).toEqual(['1 file is not opened']);
    const lyrics = only(
      forecast(
        sung,
        { formats: ['karaoke'], lyrics: false },
        { take: { texts: false, lyrics: false } },
      ),
      'lyrics',
    );
    expect(JSON.stringify(lyrics.remedy)).not.toContain('format');
  });
});
