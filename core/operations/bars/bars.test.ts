import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { end, ends, keys, lines, of, off, on } from '../../../tests/support/bars-by-hand.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { metByNotes } from '../../../tests/support/in-force-at-notes.ts';
import { controller, note, refusal, songOf, take } from '../../../tests/support/songs.ts';
import { tempoEvent, meterEvent } from '../../edit/edit-map.ts';
import { channelEvent, meta, metaEvent } from '../../smf/events.ts';
import { staysEvent } from '../../smf/own-events.ts';
import { encodeText } from '../../smf/text.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { gradualRuns } from '../../timing/gradual-runs.ts';
import { runStep } from '../run.ts';

/** Before and after of each step are worked out by hand. */
const text = (tick: number, type: number, says: string) => metaEvent(tick, type, encodeText(says));
/** One note a bar, its key the number of the bar, a quarter long on the second beat. */
const bars = (count: number): Song =>
  songOf([
    ...Array.from({ length: count }, (_, n) => note(n * 384 + 96, 96, n + 1)).flat(),
    end(count),
  ]);

describe('bars, worked by hand', () => {
  it('cut out: what follows comes where they were, with what was set in them', () => {
    const song = songOf([
      tempoEvent(0, 500_000),
      controller(0, 7, 100),
      ...note(0, 96, 1),
      ...note(300, 200, 2),
      controller(400, 7, 60),
      tempoEvent(500, 400_000),
      ...note(600, 96, 3),
      ...note(800, 96, 4),
      end(3),
    ]);
    expect(lines(take(song, 'bars.cut', {}, of(2)).song)).toEqual([
      '0 ff51 7,161,32',
      '0 b0 7,100',
      on(0, 1),
      off(96, 1),
      on(300, 2),
      // The note is cut where bar 2 began; tempo and volume of bar 2 hold in bar 3, and do so still.
      off(384, 2),
      '384 ff51 6,26,128',
      '384 b0 7,60',
      on(416, 4),
      off(512, 4),
      ends(768),
    ]);
  });

  it('a note over the edge is cut on both sides, kept whole, or goes with its beginning', () => {
    // From bar 1 into bar 2, and from bar 2 into bar 3.
    const song = songOf([...note(336, 240, 1), ...note(672, 288, 2), end(3)]);
    const cut = (edges: string) => lines(take(song, 'bars.cut', { edges }, of(2)).song);
    expect(cut('cut')).toEqual([on(336, 1), off(384, 1), on(384, 2), off(576, 2), ends(768)]);
    expect(cut('kept whole')).toEqual([on(336, 1), off(576, 1), ends(768)]);
    expect(cut('with their beginning')).toEqual([on(336, 1), off(576, 1), ends(768)]);
    const insert = (edges: string) =>
      lines(take(songOf([...note(336, 240, 1), end(3)]), 'bars.insert', { before: 2, edges }).song);
    expect(insert('cut')).toEqual([on(336, 1), off(384, 1), on(768, 1), off(960, 1), ends(1536)]);
    expect(insert('kept whole')).toEqual([on(336, 1), off(960, 1), ends(1536)]);
    expect(insert('with their beginning')).toEqual([on(336, 1), off(576, 1), ends(1536)]);
  });

  it('a note begun a little before the bar line belongs to the bar behind it', () => {
    // A 32nd is 12 ticks: 5 ticks before bar 2 and bar 3; and one held 5 ticks too long.
    const song = songOf([...note(200, 189, 9), ...note(379, 90, 1), ...note(763, 90, 2), end(3)]);
    expect(lines(take(song, 'bars.cut', {}, of(2)).song)).toEqual([
      on(200, 9),
      off(384, 9),
      on(384, 2),
      off(469, 2),
      ends(768),
    ]);
  });

  it('a drum is not struck anew: it goes with its beginning, a little early with what follows', () => {
    // A crash that rings from bar 2 into bar 3, and a kick 5 ticks before bar 3 that is 8 ticks long.
    const song = songOf([...note(700, 300, 49, 80, 9), ...note(763, 8, 36, 80, 9), end(3)]);
    expect(lines(take(song, 'bars.cut', {}, of(2)).song)).toEqual([
      '384 99 36,80',
      '387 89 36,64',
      ends(768),
    ]);
    expect(lines(take(song, 'bars.cut', {}, of(3)).song)).toEqual([
      '700 99 49,80',
      '768 89 49,64',
      ends(768),
    ]);
  });

  it('the last bars cleared, the song stays as long as it was', () => {
    const song = songOf([
      ...note(0, 96, 1),
      ...note(1200, 96, 2),
      metaEvent(1400, meta.endOfTrack),
    ]);
    expect(lines(take(song, 'bars.clear', {}, of(3, 4)).song)).toEqual([
      on(0, 1),
      off(96, 1),
      ends(1400),
    ]);
    const over = take(song, 'bars.copy', { before: 4, what: 'gives way' }, of(2)).song;
    // A whole bar stands in the place of one that was not full.
    expect(lines(over)).toEqual([on(0, 1), off(96, 1), ends(1536)]);
  });

  it('at one tick a quarter a pedal is not lifted a beat early', () => {
    const song: Song = {
      ...songOf([
        controller(0, 64, 127),
        ...note(0, 1, 1),
        ...note(8, 1, 3),
        controller(11, 64, 0),
        end(1, 12),
      ]),
      division: { kind: 'ppq', ticksPerQuarter: 1 },
    };
    expect(lines(take(song, 'bars.cut', {}, of(2)).song).slice(3, 6)).toEqual([
      '4 b0 64,0',
      '4 b0 64,127',
      on(4, 3),
    ]);
  });

  it('cleared: nothing is played there, the map and its marks stay, what follows sounds as it did', () => {
    const song = songOf(
      [text(400, meta.marker, 'Verse'), tempoEvent(500, 400_000), end(3)],
      [...note(0, 96, 1), controller(400, 7, 60), ...note(400, 96, 2), ...note(800, 96, 3), end(3)],
    );
    const done = take(song, 'bars.clear', {}, of(2)).song;
    expect(done.tracks[0]).toBe(song.tracks[0]);
    expect(lines(done, 1)).toEqual([
      on(0, 1),
      off(96, 1),
      '768 b0 7,60',
      on(800, 3),
      off(896, 3),
      ends(1152),
    ]);
  });

  it('inserted, in the meter of the bar before or in one that is said', () => {
    const song = songOf([
      meterEvent(0, 3, 4),
      meterEvent(288, 4, 4),
      ...note(288, 96, 1),
      end(2, 336),
    ]);
    // Bar 2 begins at 288, behind one of 3/4.
    expect(lines(take(song, 'bars.insert', { before: 2, bars: 2 }).song)).toEqual([
      '0 ff58 3,2,24,8',
      '864 ff58 4,2,24,8',
      on(864, 1),
      off(960, 1),
      ends(1248),
    ]);
    // A bar of 7/8 is 336 ticks; behind it 4/4 begins by its own event.
    expect(lines(take(song, 'bars.insert', { before: 2, meter: '7/8' }).song)).toEqual([
      '0 ff58 3,2,24,8',
      '288 ff58 7,3,12,8',
      '624 ff58 4,2,24,8',
      on(624, 1),
      off(720, 1),
      ends(1008),
    ]);
  });

  it('moved, copied, repeated, reversed, put in order', () => {
    const song = bars(4);
    const after = (verb: string, settings: object, scope = {}): string =>
      keys(take(song, `bars.${verb}`, settings, scope).song);
    expect(after('move', { before: 1 }, of(3))).toBe('3@1 1@5 2@9 4@13');
    expect(after('move', { before: 5 }, of(1, 2))).toBe('3@1 4@5 1@9 2@13');
    expect(after('copy', { before: 4 }, of(1, 2))).toBe('1@1 2@5 3@9 1@13 2@17 4@21');
    expect(after('copy', { before: 3, what: 'gives way' }, of(1, 2))).toBe('1@1 2@5 1@9 2@13');
    expect(after('copy', { before: 4, times: 2, what: 'gives way' }, of(1))).toBe(
      '1@1 2@5 3@9 1@13 1@17',
    );
    expect(after('repeat', { times: 2 }, of(2))).toBe('1@1 2@5 2@9 2@13 3@17 4@21');
    expect(after('reverse', {}, of(2, 4))).toBe('1@1 4@5 3@9 2@13');
    const order = [3, 1, 1, 4].map((n) => ({ from: n, to: n }));
    expect(after('order', { order })).toBe('3@1 1@5 1@9 4@13');
  });

  it('moved with their meters: 7/8 beside 3/4, each bar as long as it was', () => {
    // 3/4 (288), 7/8 (336), 3/4: the second bar goes first.
    const song = songOf([
      meterEvent(0, 3, 4),
      ...note(0, 96, 1),
      meterEvent(288, 7, 8),
      ...note(288, 96, 2),
      meterEvent(624, 3, 4),
      ...note(624, 96, 3),
      end(1, 912),
    ]);
    expect(lines(take(song, 'bars.move', { before: 1 }, of(2)).song)).toEqual([
      '0 ff58 7,3,12,8',
      on(0, 2),
      off(96, 2),
      '336 ff58 3,2,24,8',
      on(336, 1),
      off(432, 1),
      // Stated again, which changes nothing.
      '624 ff58 3,2,24,8',
      on(624, 3),
      off(720, 3),
      ends(912),
    ]);
  });

  it('a bar that another meter cut short has a meter of its own where that does not follow', () => {
    // Bar 1 of 4/4 is cut short by 3/4 after a half note; then 4/4 again. The short bar goes before bar 3.
    const song = songOf([
      ...note(0, 96, 1),
      meterEvent(192, 3, 4),
      ...note(192, 96, 2),
      meterEvent(480, 4, 4),
      ...note(480, 96, 3),
      end(1, 864),
    ]);
    expect(lines(take(song, 'bars.move', { before: 3 }, of(1)).song)).toEqual([
      '0 ff58 3,2,24,8',
      on(0, 2),
      off(96, 2),
      '288 ff58 4,2,24,8',
      '288 ff58 2,2,24,8',
      on(288, 1),
      off(384, 1),
      '480 ff58 4,2,24,8',
      on(480, 3),
      off(576, 3),
      ends(864),
    ]);
  });

  it('a pick-up stays a pick-up, and a last bar that is not full leaves its rest', () => {
    const song = songOf([
      meterEvent(0, 1, 4),
      ...note(0, 96, 1),
      meterEvent(96, 4, 4),
      ...note(96, 96, 2),
      ...note(480, 96, 3),
      metaEvent(600, meta.endOfTrack),
    ]);
    // Bar 3 goes before bar 2: the song ends with bar 2, and bar 3 lasts as long as its meter says.
    const done = take(song, 'bars.move', { before: 2 }, of(3)).song;
    expect(lines(done)).toEqual([
      '0 ff58 1,2,24,8',
      on(0, 1),
      off(96, 1),
      '96 ff58 4,2,24,8',
      on(96, 3),
      off(192, 3),
      '480 ff58 4,2,24,8',
      on(480, 2),
      off(576, 2),
      ends(864),
    ]);
  });

  it('a damper held over a join goes up there, and down again where it was held', () => {
    const song = songOf([
      controller(0, 64, 127),
      ...note(0, 96, 1),
      ...note(384, 96, 2),
      ...note(768, 96, 3),
      controller(1100, 64, 0),
      end(3),
    ]);
    const done = take(song, 'bars.cut', {}, of(2));
    expect(lines(done.song)).toEqual([
      '0 b0 64,127',
      on(0, 1),
      off(96, 1),
      '383 b0 64,0',
      '384 b0 64,127',
      on(384, 3),
      off(480, 3),
      '716 b0 64,0',
      ends(768),
    ]);
    expect(done.report.told).toEqual(['1 pedal held over a join goes up there and down again.']);
    // At a new end it goes up, and a bend back to its centre.
    const bent = songOf([
      controller(100, 64, 127),
      channelEvent(100, 0xe0, 0, 90),
      ...note(0, 96, 1),
      ...note(400, 9, 2),
      end(2),
    ]);
    expect(lines(take(bent, 'bars.cut', {}, of(2)).song).slice(-3)).toEqual([
      '384 b0 64,0',
      '384 e0 0,64',
      ends(384),
    ]);
  });

  it('sections keep their names: shortened, cut in two, once for each time they sound', () => {
    const marked = songOf(
      [
        text(384, meta.marker, 'Verse'),
        text(1152, meta.marker, 'Verse (end)'),
        text(1152, meta.marker, 'Refrain'),
        text(1536, meta.marker, 'Refrain (end)'),
        end(6),
      ],
      Array.from({ length: 6 }, (_, n) => note(n * 384, 96, 60)).flat(),
    );
    const after = (verb: string, settings: object, scope = {}): string =>
      timingOf(take(marked, `bars.${verb}`, settings, scope).song)
        .sections.map((s) => `${s.name} ${s.fromTick / 384 + 1}–${s.toTick / 384}`)
        .join(', ');
    expect(after('cut', {}, of(3))).toBe('Verse 2–2, Refrain 3–3');
    expect(after('cut', {}, of(1, 2))).toBe('Verse 1–1, Refrain 2–2');
    expect(after('cut', {}, of(2, 3))).toBe('Refrain 2–2');
    expect(after('insert', { before: 3 })).toBe('Verse 2–4, Refrain 5–5');
    expect(after('insert', { before: 4 })).toBe('Verse 2–3, Refrain 5–5');
    expect(after('move', { before: 7 }, of(3))).toBe('Verse 2–2, Refrain 3–3, Verse 6–6');
    expect(after('repeat', {}, of(4))).toBe('Verse 2–3, Refrain 4–4, Refrain 5–5');
    expect(after('reverse', {}, of(2, 4))).toBe('Refrain 2–2, Verse 3–3, Verse 4–4');
  });

  it('a marker of bars that are cut stays where its music goes on, and that is said', () => {
    const song = songOf(
      [text(384, meta.marker, 'Chorus'), end(5)],
      [...note(384, 96, 1), ...note(1152, 96, 2), end(5)],
    );
    const done = take(song, 'bars.cut', {}, of(2, 3));
    expect(timingOf(done.song).markers.map((m) => [m.text, m.atTick])).toEqual([['Chorus', 384]]);
    expect(done.report.told).toEqual([
      'Kept at the join, since the music that they name goes on there: “Chorus”.',
    ]);
    // At the end nothing of it goes on.
    const gone = take(song, 'bars.cut', {}, of(2, 5));
    expect([timingOf(gone.song).markers, gone.report.told]).toEqual([[], undefined]);
  });

  it('a marker at a cut, or a little before it, goes with what it names; one that stays here stays one', () => {
    const song = songOf(
      [
        text(0, meta.marker, 'Opening'),
        text(384, meta.marker, 'Two'),
        text(765, meta.marker, 'Three'),
        staysEvent(1152, meta.cuePoint, encodeText('Four')),
        end(4),
      ],
      note(0, 96, 60),
    );
    const marks = (done: Song): string =>
      [...timingOf(done).markers, ...timingOf(done).cuePoints]
        .map((m) => `${m.text}@${m.atTick}${m.travels ? '' : ' stays'}`)
        .join(', ');
    expect(marks(take(song, 'bars.cut', {}, of(2)).song)).toBe(
      'Opening@0, Three@381, Four@768 stays',
    );
    expect(marks(take(song, 'bars.move', { before: 5 }, of(3)).song)).toBe(
      'Opening@0, Two@384, Three@1149, Four@768 stays',
    );
    expect(marks(take(song, 'bars.cut', {}, of(1)).song)).toBe('Two@0, Three@381, Four@768 stays');
  });

  it('a gradual change that is cut in two is one on each side, to the tempos at the cut', () => {
    // From 120 to 90 BPM over four bars, a step every quarter: 500,000 + n × 10,000 µs.
    const steps = Array.from({ length: 17 }, (_, n) => tempoEvent(n * 96, 500_000 + n * 10_000));
    const song = songOf([...steps, end(6)], note(0, 2304, 60));
    const runs = (s: Song): [number, number][] =>
      gradualRuns(timingOf(s).tempos, 96).map(({ first, last }) => {
        const { tempos } = timingOf(s);
        return [tempos[first]!.tempo, tempos[last]!.tempo];
      });
    expect(runs(song)).toEqual([[500_000, 660_000]]);
    // Two bars between its halves: the first arrives at the tempo of the cut, 580,000, and the second begins there.
    const { song: done } = take(song, 'bars.insert', { before: 3, bars: 2 });
    expect(
      timingOf(done)
        .tempos.map((t) => [t.atTick / 96, t.tempo])
        .slice(7, 11),
    ).toEqual([
      [7, 570_000],
      [8, 580_000],
      [16, 580_000],
      [17, 590_000],
    ]);
    expect(runs(done)).toEqual([
      [500_000, 580_000],
      [580_000, 660_000],
    ]);
  });

  it('parked lanes and system exclusive hold where the bars come to', () => {
    const song = songOf([
      { ...channelEvent(100, 0xf0, 0), payload: Uint8Array.of(0x7f, 0x7f, 4, 1, 0, 90, 0xf7) },
      controller(100, 11, 50),
      ...note(0, 96, 1),
      ...note(400, 96, 2),
      end(2),
    ]);
    const parked = { ...song, tracks: [{ ...song.tracks[0]!, parked: ['0:11'] }] };
    const done = take(parked, 'bars.cut', {}, of(1)).song;
    expect(lines(done)).toEqual([
      '0 f0 127,127,4,1,0,90,247',
      '0 b0 11,50',
      on(16, 2),
      off(112, 2),
      ends(384),
    ]);
    expect(done.tracks[0]!.parked).toEqual(['0:11']);
  });

  it('of some tracks alone: the others and the map stay, which is said', () => {
    const song = songOf(
      [text(384, meta.marker, 'Verse'), end(3)],
      [...note(0, 96, 1), ...note(400, 96, 2), ...note(800, 96, 3), end(3)],
      [...note(800, 96, 4), end(3)],
    );
    const done = take(song, 'bars.cut', {}, { tracks: ['t2'], bars: { from: 2, to: 2 } });
    expect([done.song.tracks[0], done.song.tracks[2]]).toEqual([song.tracks[0], song.tracks[2]]);
    expect(keys(done.song, 1)).toBe(`1@0 3@${416 / 96}`);
    expect(done.report.told?.[0]).toBe(
      'Tempo, meter, markers and sections stayed where they are, since other tracks stay.',
    );
  });

  it('songs without a meter, and in frames: bars of 4/4 at 120 BPM', () => {
    // 25 frames of 4 ticks: 100 ticks a second, so a bar of two seconds is 200.
    const song: Song = {
      ...songOf([
        ...note(0, 10, 1),
        ...note(200, 10, 2),
        ...note(400, 10, 3),
        metaEvent(600, meta.endOfTrack),
      ]),
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 4 },
    };
    expect(lines(take(song, 'bars.cut', {}, of(2)).song)).toEqual([
      on(0, 1),
      off(10, 1),
      on(200, 3),
      off(210, 3),
      ends(400),
    ]);
    expect(lines(take(songOf([end(3)]), 'bars.cut', {}, of(2)).song)).toEqual([ends(768)]);
  });

  it('timecode stays at the beginning, and what that means for what moves is said', () => {
    const song = songOf(
      [metaEvent(0, meta.smpteOffset, Uint8Array.of(0x21, 0, 0, 0, 0)), end(4)],
      [...note(0, 96, 1), ...note(1200, 96, 2), end(4)],
    );
    // At 120 BPM a bar is two seconds: bar 3 at 4 s, where bar 2 was at 2 s; 25 frames a second.
    expect(take(song, 'bars.cut', {}, of(2)).report.told).toEqual([
      'What was bar 3 at timecode 01:00:04:00 is bar 2 at 01:00:02:00 now.',
    ]);
  });
});

describe('what cannot be done', () => {
  const song = songOf(
    [meterEvent(0, 4, 4), meterEvent(768, 3, 4), ...note(0, 96, 1), end(1, 1344)],
    [...note(0, 96, 2), end(1, 1344)],
  );
  it.each([
    ['bars.cut', {}, { tracks: 'all' }, 'scope-without-bars'],
    ['bars.cut', {}, of(3, 9), 'bars-behind-end'],
    ['bars.cut', {}, of(1, 4), 'settings-invalid'],
    ['bars.move', { before: 2 }, of(1, 3), 'bars-into-themselves'],
    ['bars.move', { before: 9 }, of(1), 'bars-behind-end'],
    ['bars.copy', { before: 2, what: 'gives way' }, of(1, 2), 'bars-into-themselves'],
    ['bars.insert', { before: 9 }, {}, 'bars-behind-end'],
    ['bars.insert', { meter: '7/9' }, {}, 'settings-invalid'],
    ['bars.order', { order: [{ from: 2, to: 1 }] }, {}, 'settings-invalid'],
    ['bars.order', { order: [{ from: 1, to: 9 }] }, {}, 'bars-behind-end'],
    // A bar of 4/4 would stand where the map has 3/4.
    ['bars.move', { before: 4 }, { tracks: ['t2'], bars: { from: 1, to: 1 } }, 'bars-clash'],
    ['bars.cut', {}, { tracks: ['t9'], bars: { from: 1, to: 1 } }, 'scope-unknown-track'],
  ] as const)('%s %o is refused', (operation, settings, scope, code) => {
    expect(refusal(song, operation, settings, scope as object)).toBe(code);
  });
});

describe('there and back', () => {
  const plain = (song: Song) => song.tracks.map((_, n) => lines(song, n).sort());
  const sounds = (song: Song) =>
    song.tracks.map((_, n) => lines(song, n).filter((line) => /^\d+ [89]/.test(line)));
  const taken = (
    song: Song,
    operation: string,
    settings: object,
    scope: object,
  ): Song | undefined => {
    const done = runStep(song, { operation, settings, scope });
    return done.ok ? done.value.song : undefined;
  };

  it('bars that are inserted and cut again leave every note, and what it meets', () => {
    fc.assert(
      fc.property(madeSong, fc.integer({ min: 1, max: 4 }), (song, before) => {
        const there = taken(song, 'bars.insert', { before, edges: 'kept whole' }, {});
        const back = there && taken(there, 'bars.cut', { edges: 'kept whole' }, of(before));
        if (!back) return;
        // What sets tracks of one channel up stands in the first of them now, before its first note.
        const [was, is] = [song, back].map((s) =>
          metByNotes(s, undefined, true).map((m) => JSON.stringify(m)),
        );
        expect(is).toEqual(was);
      }),
      { seed: 196, numRuns: scaleRuns(300) },
    );
  });

  it('where nothing crosses an edge, event for event', () => {
    // Notes and values that are over before each bar line.
    const song = songOf(
      [text(384, meta.marker, 'Verse'), tempoEvent(0, 500_000), end(4)],
      [
        channelEvent(0, 0xc0, 5),
        controller(0, 7, 90),
        ...[0, 384, 768, 1152].flatMap((t) => note(t + 10, 300, 60)),
        end(4),
      ],
    );
    const inserted = take(song, 'bars.insert', { before: 3, bars: 2 }).song;
    expect(plain(take(inserted, 'bars.cut', {}, of(3, 4)).song)).toEqual(plain(song));
    const moved = take(song, 'bars.move', { before: 1 }, of(3)).song;
    expect(plain(take(moved, 'bars.move', { before: 4 }, of(1)).song)).toEqual(plain(song));
    const turned = take(song, 'bars.reverse', {}, of(1, 4)).song;
    expect(sounds(take(turned, 'bars.reverse', {}, of(1, 4)).song)).toEqual(sounds(song));
  });
});
