import { describe, expect, it } from 'vitest';
import { controller, note, songOf } from '../../../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent, SYSEX, type EventValue } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import type { Song } from '../../../song/song.ts';
import { ticksToSeconds } from '../../../timing/tempo-map.ts';
import { limitsSchema, type Limits } from '../../receiver/receiver.ts';
import { arrivalOf, type Opened } from './arrival.ts';
import { aspects, bit, isLost, lossOf } from './outcome.ts';

/** What a receiver has of a file, row by row, worked out by hand from what its limits say. */
const tempo = (tick: number, micros: number): EventValue =>
  metaEvent(tick, meta.tempo, Uint8Array.of(micros >> 16, (micros >> 8) & 255, micros & 255));
const text = (type: number, said: string): EventValue => metaEvent(0, type, encodeText(said));

const laid: Opened = { begins: 500_000, format: 1, merged: false, tracks: 2 };

const words = (outcome: number): string =>
  isLost(outcome)
    ? `no ${lossOf(outcome)}`
    : aspects.filter((a) => (outcome & bit[a]) > 0).join(' ') || 'same';

/** What becomes of the rows of the last track, without its end. */
function rowsOf(song: Song, takes: Partial<Limits>, opened: Partial<Opened> = {}): string[] {
  const limits = limitsSchema.parse(takes);
  const arrival = arrivalOf(song, { ...laid, ...opened }, limits, () => ({
    lowest: 24,
    highest: 30,
  }));
  const { count } = song.tracks.at(-1)!.events;
  const rows = arrival.tracks.at(-1) ?? new Int32Array(count);
  return Array.from(rows.slice(0, count - 1), words);
}
const become = (events: EventValue[], takes: Partial<Limits>, opened: Partial<Opened> = {}) =>
  rowsOf(songOf([tempo(0, 500_000)], events), takes, opened);

describe('what a receiver has of a file', () => {
  it('is nothing where it opens no such file: by format, by resolution, by frames', () => {
    const song = songOf([tempo(0, 500_000)], note(0, 96, 60));
    const opens = (
      takes: Partial<Limits>,
      of: Song = song,
      format: Opened['format'] = 1,
    ): boolean =>
      arrivalOf(of, { ...laid, format }, limitsSchema.parse(takes), () => undefined).opened;
    expect([opens({ formats: [0] }), opens({ formats: [0] }, song, 0)]).toEqual([false, true]);
    expect([opens({ resolutions: [480] }), opens({ resolutions: [96] })]).toEqual([false, true]);
    const frames: Song = {
      ...song,
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
    };
    expect([opens({ frames: false }, frames), opens({}, frames)]).toEqual([false, true]);
    expect(opens({ resolutions: [480] }, frames)).toBe(true);
  });

  it('is the first tracks, where it reads no more', () => {
    const song = songOf([tempo(0, 500_000)], note(0, 96, 60), note(0, 96, 64));
    expect(rowsOf(song, { tracks: 2 }, { tracks: 3 })).toEqual(['no moreTracks', 'no moreTracks']);
    expect(rowsOf(song, { tracks: 3 }, { tracks: 3 })).toEqual(['same', 'same']);
    // One track behind the map: what was in three is in two.
    expect(rowsOf(song, { tracks: 2 }, { tracks: 2, merged: true })).toEqual(['same', 'same']);
  });

  it.each<[string, EventValue[], Partial<Limits>, string[]]>([
    ['notes', note(0, 96, 60), { notes: false }, ['no notes', 'no notes']],
    [
      'the fourth channel of four, not the fifth',
      [...note(0, 9, 60, 80, 3), ...note(9, 9, 60, 80, 4)],
      { channels: 4 },
      ['same', 'same', 'no highChannels', 'no highChannels'],
    ],
    [
      'pressure',
      [channelEvent(0, 0xa0, 60, 9), channelEvent(0, 0xd0, 9)],
      { pressure: false },
      ['no pressure', 'no pressure'],
    ],
    ['bends', [channelEvent(0, 0xe0, 0, 70)], { bend: false }, ['no bend']],
    [
      'no controllers, but what is for the mode of a channel',
      [controller(0, 119, 1), controller(0, 120, 0)],
      { controllers: 'none' },
      ['no controllers', 'same'],
    ],
    [
      'controllers of a list',
      [controller(0, 7, 1), controller(0, 10, 1)],
      { controllers: 'only', controllerList: [7] },
      ['same', 'no pan'],
    ],
    [
      'all controllers but those of a list',
      [controller(0, 7, 1), controller(0, 39, 1), controller(0, 64, 1)],
      { controllers: 'all but', controllerList: [39, 64] },
      ['same', 'no volume', 'no controllers'],
    ],
    [
      'sends by their names',
      [controller(0, 91, 1), controller(0, 93, 1), controller(0, 42, 1)],
      { controllers: 'none' },
      ['no reverb', 'no chorus', 'no pan'],
    ],
    [
      'exclusive',
      [{ atTick: 0, status: SYSEX, data1: 0, data2: 0, payload: Uint8Array.of(0x7d, 1, 0xf7) }],
      { exclusive: false },
      ['no exclusive'],
    ],
    [
      'meters and keys',
      [
        metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
        metaEvent(0, meta.keySignature, Uint8Array.of(1, 0)),
      ],
      { meters: false, keys: false },
      ['no meters', 'no keys'],
    ],
    [
      'lyrics',
      [text(meta.lyric, 'la'), text(meta.text, 'slowly')],
      { lyrics: false },
      ['no lyrics', 'same'],
    ],
    [
      'texts where neither words nor texts are shown',
      [text(meta.text, 'slowly'), text(meta.copyright, '(c)')],
      { words: false, marks: ['markers'] },
      ['no texts', 'no copyright'],
    ],
    [
      'texts where they are shown as marks',
      [text(meta.text, 'slowly'), text(meta.copyright, '(c)')],
      { words: false, marks: ['texts'] },
      ['same', 'no copyright'],
    ],
    [
      'marks of the other kind',
      [text(meta.marker, 'A'), text(meta.cuePoint, 'B')],
      { marks: ['cue points'] },
      ['no markers', 'same'],
    ],
    [
      'marks that are cut',
      [text(meta.marker, 'Verse'), text(meta.cuePoint, 'Door')],
      { markLetters: 4 },
      ['cut', 'same'],
    ],
    [
      'names that are cut',
      [text(meta.trackName, 'Viola'), text(meta.instrumentName, 'Alto')],
      { nameLetters: 4 },
      ['cut', 'same'],
    ],
    [
      'names',
      [text(meta.trackName, 'Viola'), text(meta.instrumentName, 'Alto')],
      { trackNames: false, instrumentNames: false },
      ['no trackNames', 'no instrumentNames'],
    ],
    [
      'letters beyond ASCII',
      [text(meta.lyric, 'lá'), text(meta.lyric, 'la')],
      { letters: 'ASCII' },
      ['letters', 'same'],
    ],
    [
      'letters that are read as another encoding',
      [text(meta.lyric, 'lá')],
      { letters: 'Latin-1' },
      ['letters'],
    ],
    ['letters that are read as they are', [text(meta.lyric, 'lá')], { letters: 'UTF-8' }, ['same']],
    [
      'specific events and ports',
      [
        metaEvent(0, meta.sequencerSpecific, Uint8Array.of(0x7d)),
        metaEvent(0, meta.port, Uint8Array.of(0)),
      ],
      { specific: false, ports: false },
      ['no specific', 'no ports'],
    ],
  ])('without %s', (_, events, takes, expected) => {
    expect(become(events, takes)).toEqual(expected);
  });

  it('on a second port is changed where it knows none', () => {
    const second = [metaEvent(0, meta.port, Uint8Array.of(1)), ...note(0, 96, 60)];
    expect(become(second, { ports: false })).toEqual(['no ports', 'ports', 'ports']);
    expect(become(second, {})).toEqual(['same', 'same', 'same']);
  });

  it('of names of tracks in one is the first; the others are names of instruments there', () => {
    const named = [text(meta.trackName, 'Viola')];
    expect(become(named, {}, { merged: true })).toEqual(['form']);
    expect(become(named, { nameLetters: 4 }, { merged: true })).toEqual(['cut form']);
    expect(become(named, { instrumentNames: false }, { merged: true })).toEqual(['no trackNames']);
  });
});

describe('the programs of a receiver', () => {
  const program = (channel: number, number: number): EventValue =>
    channelEvent(0, 0xc0 | channel, number);
  const bank = (msb: number, lsb: number): EventValue[] => [
    controller(0, 0, msb),
    controller(0, 32, lsb),
  ];

  it('of General MIDI are all without banks, and one kit', () => {
    const takes = { programs: 'General MIDI' } as const;
    expect(become([...bank(1, 0), program(0, 5)], takes)).toEqual(['no banks', 'no banks', 'same']);
    expect(become([program(9, 0), program(9, 8)], takes)).toEqual(['same', 'kits']);
  });

  it('of a list are those, in their bank or in any: MSB × 128 + LSB, and 0 where none is said', () => {
    const takes: Partial<Limits> = {
      programs: 'a list',
      programList: [
        { program: 6, bank: 129 },
        { program: 7, bank: null },
        { program: 8, bank: 0 },
      ],
    };
    expect(become([...bank(1, 1), program(0, 5)], takes).at(-1)).toBe('same');
    expect(become([...bank(1, 0), program(0, 5)], takes).at(-1)).toBe('no programs');
    expect(become([controller(0, 32, 1), controller(0, 0, 1), program(0, 5)], takes).at(-1)).toBe(
      'same',
    );
    expect(become([...bank(3, 3), program(0, 6)], takes).at(-1)).toBe('same');
    expect(become([program(0, 7)], takes)).toEqual(['same']);
    expect(become([...bank(0, 1), program(0, 7)], takes).at(-1)).toBe('no programs');
    // Another channel has a bank of its own.
    expect(become([...bank(0, 1), program(1, 7)], takes).at(-1)).toBe('same');
    expect(become([program(0, 8)], takes)).toEqual(['no programs']);
  });

  it('are none at all', () => {
    expect(become([...bank(1, 0), program(0, 5)], { programs: 'none' })).toEqual([
      'no banks',
      'no banks',
      'no programs',
    ]);
  });
});

describe('tempos of a receiver', () => {
  /** At 96 PPQ and 120 BPM, 192 ticks are a second. */
  const map = [tempo(0, 500_000), tempo(96, 500_001), tempo(192, 500_002)];
  const ofMap = (takes: Partial<Limits>): string[] => rowsOf(songOf([...map]), takes);

  it('are all, the first, none, or those that do not follow too soon', () => {
    expect(ofMap({})).toEqual(['same', 'same', 'same']);
    expect(ofMap({ tempo: 'one' })).toEqual(['same', 'no tempo', 'no tempo']);
    expect(ofMap({ tempo: 'none' })).toEqual(['no tempo', 'no tempo', 'no tempo']);
    expect(ofMap({ temposASecond: 1 })).toEqual(['same', 'no tempo', 'same']);
    expect(ofMap({ temposASecond: 2 })).toEqual(['same', 'same', 'same']);
  });

  it('are set by hand where none is read', () => {
    const arrival = arrivalOf(
      songOf([...map]),
      { ...laid, begins: 400_000 },
      limitsSchema.parse({ tempo: 'none' }),
      () => undefined,
    );
    // A quarter of 96 ticks lasts 0.4 s, wherever it is.
    expect(ticksToSeconds(arrival.tempo, 960)).toBeCloseTo(4, 9);
  });
});

describe('notes of a receiver', () => {
  it('are not heard again within its gap: 20 ms are 3.84 ticks here', () => {
    const again = (tick: number, key = 60, channel = 0) =>
      become([...note(0, 96, 60), ...note(tick, 50, key, 80, channel)], { gap: 20 });
    expect(again(99)).toEqual(['same', 'same', 'no gap', 'same']);
    expect(again(100)).toEqual(['same', 'same', 'same', 'same']);
    expect(again(96, 61)[2]).toBe('same');
    expect(again(99, 60, 1)[2]).toBe('same');
  });

  it('are key switches where it knows none, from the lowest key to the highest', () => {
    const keys = [23, 24, 30, 31].flatMap((key, n) => note(n * 10, 10, key));
    const on = become(keys, { keySwitches: false }).filter((_, n) => n % 2 === 0);
    expect(on).toEqual(['same', 'keySwitches', 'keySwitches', 'same']);
    expect(new Set(become(keys, {}))).toEqual(new Set(['same']));
  });

  it('of a kit are heard as pitches away from channel 10, where drums are there', () => {
    const takes = { drums: 'on channel 10' } as const;
    const kit = (channel: number): string[] => {
      const song = songOf([tempo(0, 500_000)], note(0, 96, 36, 80, channel));
      const [map, part] = song.tracks;
      const instrument = { name: 'Kit', drums: true } as NonNullable<typeof part>['instrument'];
      return rowsOf(
        { ...song, tracks: [map!, { ...part!, ...(instrument ? { instrument } : {}) }] },
        takes,
      );
    };
    expect([kit(0)[0], kit(9)[0]]).toEqual(['drums', 'same']);
  });
});
