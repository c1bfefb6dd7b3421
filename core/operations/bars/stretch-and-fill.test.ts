import { describe, expect, it } from 'vitest';
import { lines, of, on, off, ends, end, keys } from '../../../tests/support/bars-by-hand.ts';
import { metByNotes } from '../../../tests/support/in-force-at-notes.ts';
import { controller, note, refusal, songOf, take } from '../../../tests/support/songs.ts';
import { meterEvent, tempoEvent } from '../../edit/edit-map.ts';
import { channelEvent, meta, metaEvent } from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import { trackName } from '../../song/song.ts';
import { runStep } from '../run.ts';
import { sourceKey } from '../sources.ts';

/** 96 PPQ, bars of 384 ticks; before and after worked out by hand. */
describe('bars stretched', () => {
  it('half time: twice the bars, what follows behind them', () => {
    const song = songOf([
      ...note(0, 96, 1),
      controller(400, 7, 50),
      ...note(576, 96, 2),
      ...note(768, 96, 3),
      end(3),
    ]);
    expect(lines(take(song, 'bars.stretch', { bars: 2 }, of(2)).song)).toEqual([
      on(0, 1),
      off(96, 1),
      '416 b0 7,50',
      on(768, 2),
      off(960, 2),
      on(1152, 3),
      off(1248, 3),
      ends(1536),
    ]);
  });

  it('double time, and three bars of another meter', () => {
    const song = songOf([...note(0, 96, 1), ...note(384, 96, 2), ...note(768, 96, 3), end(3)]);
    expect(keys(take(song, 'bars.stretch', { bars: 1 }, of(1, 2)).song)).toBe('1@0 2@2 3@4');
    // Two bars of 4/4 (768 ticks) as two of 3/4 (576): three quarters as long.
    expect(lines(take(song, 'bars.stretch', { bars: 2, meter: '3/4' }, of(1, 2)).song)).toEqual([
      '0 ff58 3,2,24,8',
      on(0, 1),
      off(72, 1),
      on(288, 2),
      off(360, 2),
      '576 ff58 4,2,24,8',
      on(576, 3),
      off(672, 3),
      ends(960),
    ]);
  });

  it('written in twice the bars and sounding as it did: the tempo is twice as fast there', () => {
    const song = songOf([tempoEvent(0, 500_000), ...note(0, 96, 1), ...note(384, 96, 2), end(2)]);
    expect(
      lines(take(song, 'bars.stretch', { bars: 2, music: 'keeps its seconds' }, of(1)).song),
    ).toEqual([
      // 250,000 µs a quarter: 3, 208, 144.
      '0 ff51 3,208,144',
      on(0, 1),
      off(192, 1),
      '768 ff51 7,161,32',
      on(768, 2),
      off(864, 2),
      ends(1152),
    ]);
  });

  it('one track alone leaves what it says of the song where it stands', () => {
    // Bar 2 twice as long, in track 2 only: its note moves, the marker and the tempo in it stay.
    const song = songOf(
      [end(4)],
      [
        metaEvent(480, meta.marker, encodeText('Here')),
        tempoEvent(576, 400_000),
        ...note(576, 96, 2),
        end(4),
      ],
    );
    const alone = { ...of(2), tracks: ['t2'] };
    const { song: after, report } = take(song, 'bars.stretch', { bars: 2 }, alone);
    expect(lines(after, 1).filter((l) => !l.includes(' ff2f'))).toEqual([
      '480 ff6 72,101,114,101',
      '576 ff51 6,26,128',
      on(768, 2),
      off(960, 2),
    ]);
    // The note, its end, and the track's.
    expect(report.changes.map((c) => c.counts)).toEqual([{ event: 3 }]);
  });

  it('meters inside have whole bars, or one is said', () => {
    const song = songOf([meterEvent(384, 3, 4), ...note(0, 96, 1), end(1, 960)]);
    expect(refusal(song, 'bars.stretch', { bars: 3 }, of(1, 2))).toBe('settings-invalid');
    const doubled = take(song, 'bars.stretch', { bars: 4 }, of(1, 2)).song;
    expect(lines(doubled)).toContain('768 ff58 3,2,24,8');
    const alone = { tracks: ['t2'], bars: { from: 1, to: 1 } };
    const two = songOf([meterEvent(384, 3, 4), end(1, 960)], [...note(0, 96, 1), end(1, 960)]);
    expect(refusal(two, 'bars.stretch', { bars: 2 }, alone)).toBe('bars-clash');
  });
});

describe('bars filled', () => {
  const beat = (n: number) => [
    ...note(n * 384, 24, 36, 100, 9),
    ...note(n * 384 + 120, 24, 42, 50, 9),
  ];
  const song = songOf([text(0, 'Kit'), ...beat(0), ...note(1152, 24, 49, 90, 9), end(5)]);

  it('by repeating others over and over, in the place of what is there', () => {
    expect(keys(take(song, 'bars.fill', {}, of(2, 4)).song)).toBe(
      '36@0 42@1.25 36@4 42@5.25 36@8 42@9.25 36@12 42@13.25',
    );
    const two = songOf([...note(0, 24, 1), ...note(384, 24, 2), end(6)]);
    expect(keys(take(two, 'bars.fill', { to: 2 }, of(3, 5)).song)).toBe('1@0 2@4 1@8 2@12 1@16');
  });

  it('each time a little otherwise, the same for the same seed, the first time as it is', () => {
    const soft = songOf([
      ...Array.from({ length: 8 }, (_, n) => note(n * 48 + (n % 2) * 3, 24, 42, 60 + n, 9)).flat(),
      end(9),
    ]);
    const filled = (seed: number) => take(soft, 'bars.fill', { variation: 80, seed }, of(2, 9));
    expect(lines(filled(1).song)).toEqual(lines(filled(1).song));
    expect(lines(filled(1).song)).not.toEqual(lines(filled(2).song));
    const plain = lines(take(soft, 'bars.fill', {}, of(2, 9)).song).filter(
      (l) => Number.parseInt(l) < 768,
    );
    expect(lines(filled(1).song).filter((l) => Number.parseInt(l) < 768)).toEqual(plain);
    expect(filled(1).report.changes[0]!.detail).toMatch(/soft notes? left out/);
  });

  it('with a fill from the shelf in the last bar, on the channel of the track', () => {
    // At 480 PPQ: sixteenths of 120 ticks, which are 24 here; what lies behind its first bar is not played.
    const fill = {
      ...songOf([
        ...note(0, 120, 38, 99, 0),
        ...note(120, 120, 45, 98, 0),
        ...note(1920, 120, 50, 97, 0),
      ]),
      division: { kind: 'ppq', ticksPerQuarter: 480 } as const,
    };
    const name = { original: 'b'.repeat(64), part: 1 };
    const step = { operation: 'bars.fill', settings: { fill: name }, scope: of(2, 3) };
    const done = runStep(song, step, new Map([[sourceKey(name), fill]]));
    if (!done.ok) throw new Error(done.problem.code);
    expect(keys(done.value.song)).toBe('36@0 42@1.25 36@4 42@5.25 38@8 45@8.25 49@12');
    expect(
      new Set([...done.value.song.tracks[0]!.events.status].filter((s) => s >> 4 === 9)),
    ).toEqual(new Set([0x99]));
    const missing = runStep(song, step);
    expect(missing.ok ? 'done' : missing.problem.code).toBe('source-missing');
  });
});

describe('a fill with a note of no length', () => {
  it('plays it for a tick, as no note of a file is shorter', () => {
    const name = { original: 'd'.repeat(64), part: 1 };
    const done = runStep(
      songOf([...note(0, 24, 36, 90, 9), end(2)]),
      { operation: 'bars.fill', settings: { fill: name }, scope: of(2) },
      new Map([[sourceKey(name), songOf(note(48, 0, 38, 99))]]),
    );
    if (!done.ok) throw new Error(done.problem.code);
    expect(lines(done.value.song).slice(2, 4)).toEqual(['432 99 38,99', '433 89 38,64']);
  });

  it('one that hangs ends with the bars', () => {
    const name = { original: 'e'.repeat(64), part: 1 };
    const done = runStep(
      songOf([...note(0, 24, 36, 90, 9), end(3)]),
      { operation: 'bars.fill', settings: { fill: name }, scope: of(2) },
      new Map([[sourceKey(name), songOf([channelEvent(48, 0x90, 38, 99)])]]),
    );
    if (!done.ok) throw new Error(done.problem.code);
    expect(lines(done.value.song).slice(2, 4)).toEqual(['432 99 38,99', '768 89 38,64']);
  });
});

describe('a fill where nothing else changes', () => {
  const empty = songOf([...note(0, 24, 36, 90, 9), end(4)]);
  const name = { original: 'c'.repeat(64), part: 1 };
  it('is played and named all the same', () => {
    // Bars 3 and 4 are as empty as bar 2, which fills them.
    const settings = { from: 2, to: 2, fill: name };
    const done = runStep(
      empty,
      { operation: 'bars.fill', settings, scope: of(3, 4) },
      new Map([[sourceKey(name), songOf(note(0, 24, 38, 99))]]),
    );
    if (!done.ok) throw new Error(done.problem.code);
    expect(keys(done.value.song)).toBe('36@0 38@12');
    expect(done.value.report.changes).toMatchObject([
      { track: 't1', detail: 'a fill of 1 note in bar 4' },
    ]);
    const nothing = take(empty, 'bars.fill', { from: 2, to: 2 }, of(3, 4));
    expect([nothing.song, nothing.report.changes]).toEqual([empty, []]);
  });
});

const text = (tick: number, says: string) => metaEvent(tick, meta.trackName, encodeText(says));

describe('tracks split at a bar and joined again', () => {
  const song = songOf(
    [tempoEvent(0, 500_000), end(3)],
    [
      text(0, 'Bass'),
      channelEvent(0, 0xc0, 33),
      ...note(0, 96, 1),
      ...note(300, 200, 2),
      controller(500, 7, 60),
      ...note(800, 96, 3),
      end(3),
    ],
  );

  it('what stands before the bar stays, the rest gets a track of its own', () => {
    const done = take(song, 'tracks.split-at', { before: 2 }, { tracks: ['t2'] }).song;
    expect(done.tracks.map((t) => trackName(t, 'UTF-8'))).toEqual(['', 'Bass', 'Bass from bar 2']);
    // The note that rings into bar 2 goes with its beginning.
    expect(lines(done, 1).slice(1)).toEqual([
      '0 c0 33,0',
      on(0, 1),
      off(96, 1),
      on(300, 2),
      off(500, 2),
      ends(1152),
    ]);
    expect(lines(done, 2).slice(1)).toEqual(['500 b0 7,60', on(800, 3), off(896, 3), ends(1152)]);
    const cut = take(song, 'tracks.split-at', { before: 2, edges: 'cut' }, { tracks: ['t2'] }).song;
    expect(lines(cut, 1)).toContain(off(384, 2));
    expect(lines(cut, 2).slice(1, 3)).toEqual([on(384, 2), off(500, 2)]);
  });

  it('joined, they are one run to the end of the song, as it was', () => {
    const split = take(song, 'tracks.split-at', { before: 2 }, { tracks: ['t2'] }).song;
    const joined = take(split, 'tracks.join', {}, { tracks: ['t2', 't3'] }).song;
    expect(joined.tracks.map((t) => t.id)).toEqual(['t1', 't2']);
    expect(lines(joined, 1)).toEqual(lines(song, 1));
  });

  it('pieces on other channels come onto the first, and each sounds as it did', () => {
    const pieces = songOf(
      [channelEvent(0, 0xc0, 33), controller(0, 7, 90), ...note(0, 96, 1)],
      [channelEvent(0, 0xc3, 12), controller(0, 7, 50, 3), ...note(384, 96, 2, 80, 3)],
      [...note(1000, 96, 3, 80, 9), end(4)],
    );
    const done = take(pieces, 'tracks.join', {}, { tracks: ['t1', 't2'] });
    expect(lines(done.song)).toEqual([
      '0 c0 33,0',
      '0 b0 7,90',
      on(0, 1),
      off(96, 1),
      '384 c0 12,0',
      '384 b0 7,50',
      on(384, 2),
      off(480, 2),
      ends(1536),
    ]);
    const words = (s: typeof pieces) => metByNotes(s).map((m) => [m.key, m.words]);
    expect(words(done.song)).toEqual(words(pieces));
  });

  it('pieces of several ports are channels of their own: each sounds as it did', () => {
    const port = (n: number) => metaEvent(0, meta.port, Uint8Array.of(n));
    const pieces = songOf(
      [port(0), channelEvent(0, 0xc0, 5), ...note(0, 96, 1)],
      [port(1), channelEvent(0, 0xc0, 9), ...note(384, 96, 2)],
    );
    const { song: joined } = take(pieces, 'tracks.join');
    const words = (s: typeof pieces) => metByNotes(s).map((m) => [m.key, m.words]);
    expect(words(joined)).toEqual(words(pieces));
  });

  it('pieces that sound over each other on several channels are refused; one track runs to the end', () => {
    const over = songOf(note(0, 400, 1), note(384, 96, 2, 80, 3));
    expect(refusal(over, 'tracks.join')).toBe('settings-invalid');
    const one = take(songOf(note(0, 96, 1), [end(4)]), 'tracks.join', {}, { tracks: ['t1'] });
    expect(lines(one.song).at(-1)).toBe(ends(1536));
    expect(one.described).toBe('Let track 1 run to the end of the song');
  });
});
