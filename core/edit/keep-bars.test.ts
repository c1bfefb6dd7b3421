import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { end, lines, off, on } from '../../tests/support/bars-by-hand.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { scaleRuns } from '../../tests/support/scale.ts';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import { META, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { meterMap, positionAt, positionText } from '../timing/meter-map.ts';

const meter = (tick: number, beats: number): EventValue =>
  metaEvent(tick, meta.timeSignature, Uint8Array.of(beats, 2, 24, 8));
const marker = (tick: number, text: string): EventValue =>
  metaEvent(tick, meta.marker, encodeText(text));
const tempo = (tick: number): EventValue =>
  metaEvent(tick, meta.tempo, Uint8Array.of(7, 0xa1, 0x20));

const at = (song: Song, tick: number): string =>
  positionText(positionAt(meterMap(timingOf(song).meters, song.division), tick));
const places = (song: Song) => ({
  markers: timingOf(song).markers.map((m) => `${m.text} ${at(song, m.atTick)}`),
  tempos: timingOf(song).tempos.map((t) => at(song, t.atTick)),
  end: at(song, timingOf(song).endTick),
});
const inThree = (song: Song, bar: number, settings: object) =>
  take(song, 'timing.meter', { bar, numerator: 3, ...settings });

describe('a meter in the middle, worked by hand: 96 ticks a quarter, 4/4 is 384, 3/4 is 288', () => {
  const typed = songOf([
    tempo(0),
    marker(384 * 2, 'Verse'),
    tempo(384 * 4),
    marker(384 * 4, 'Chorus'),
    end(48),
  ]);

  it('a song without notes keeps its bars: 48 bars stay 48, sections and tempos on their lines', () => {
    const { song, report } = inThree(typed, 3, {});
    expect(places(song)).toEqual({
      markers: ['Verse 3.1.0', 'Chorus 5.1.0'],
      tempos: ['1.1.0', '5.1.0'],
      end: '49.1.0',
    });
    // Chorus: two bars of 384, two of 288.
    expect(timingOf(song).markers[1]!.atTick).toBe(768 + 576);
    expect(report.changes[0]!.detail).toBe('2 events moved along with the bars');
  });

  it('keeps its beats: every tick stays, and what left its line is said, with what keeps it there', () => {
    const { song, report } = inThree(typed, 3, { music: 'keeps its beats' });
    expect(timingOf(song).markers.map((m) => m.atTick)).toEqual([768, 1536]);
    expect(report.told).toEqual([
      'No longer on a bar line: 1 marker, 1 tempo. Choose “keeps its bars” to keep them there.',
    ]);
  });

  it('a list that sets 3/4 at bar 25 leaves 48 bars 48', () => {
    const { song } = take(songOf([end(48)]), 'timing.places', {
      meters: [{ atTick: 384 * 24, numerator: 3, denominator: 4 }],
      marks: [{ atTick: 384 * 24 + 288, text: 'Bar 26' }],
    });
    expect(places(song)).toEqual({ markers: ['Bar 26 26.1.0'], tempos: [], end: '49.1.0' });
  });

  it('a meter that stood behind stands at its bar again', () => {
    const song = songOf([meter(0, 4), meter(384 * 4, 2), end(6)]);
    // Bars 1 to 4 of 384, then 192 each: the end is bar 9.
    const { song: after } = inThree(song, 3, { music: 'keeps its bars' });
    expect(timingOf(after).meters.map((m) => [m.atTick, m.numerator])).toEqual([
      [0, 4],
      [768, 3],
      [768 + 576, 2],
    ]);
    expect(places(after).end).toBe(places(song).end);
  });

  it('one that cut the bar before it short goes on doing so', () => {
    const song = songOf([meter(0, 4), meter(384 + 96, 2), end(3)]);
    const { song: after } = inThree(song, 1, { music: 'keeps its bars' });
    // Bar 2 had a beat of its four, and has it in 3/4.
    expect(timingOf(after).meters.map((m) => m.atTick)).toEqual([0, 288 + 96]);
  });
});

describe('bars that become shorter: what is behind their end (by hand)', () => {
  const song = songOf(
    [end(3)],
    [
      // Bar 1: beats 1 and 4; bar 2: the whole bar; bar 3: beat 1.
      ...note(0, 96, 60),
      ...note(288, 48, 62),
      controller(288, 7, 50),
      ...note(384, 384, 64),
      controller(384, 7, 90),
      ...note(768, 96, 65),
      end(3),
    ],
  );

  it('moved: to the next bar line, before nothing that stands there; ends at the bar line', () => {
    const { song: after, report } = inThree(song, 1, { music: 'keeps its bars' });
    expect(lines(after, 1).filter((l) => !l.startsWith('864 ff'))).toEqual([
      on(0, 60),
      off(96, 60),
      '288 b0 7,50',
      on(288, 62),
      on(288, 64),
      '288 b0 7,90',
      off(336, 62),
      off(576, 64),
      on(576, 65),
      off(672, 65),
    ]);
    expect(report.changes[0]!.detail).toBe(
      '5 events moved along with the bars; 1 note past the end of its bar moved to the next bar line; 1 note cut short at the bar line',
    );
  });

  it('cut: the notes are taken out; a value stays, since it counts for what follows', () => {
    const { song: after, report } = inThree(song, 1, { music: 'keeps its bars', beyond: 'cut' });
    expect(lines(after, 1).filter((l) => / [89]0 62/.test(l))).toEqual([]);
    expect(lines(after, 1)).toContain('288 b0 7,50');
    expect(report.changes[0]!.detail).toContain('1 note past the end of its bar taken out');
  });

  it('one event that moves is said, and none is not', () => {
    // Bar 2 begins at tick 384 in 4/4, and at 288 in 3/4: what stands there moves, what stands in bar 1 does not.
    const same = songOf([end(2)], [controller(384, 7, 90), end(2)]);
    const { report } = inThree(same, 1, { music: 'keeps its bars' });
    expect(report.changes[0]!.detail).toBe('1 event moved along with the bars');
    const still = songOf([end(2)], [controller(0, 7, 90), end(2)]);
    const { report: none } = inThree(still, 1, { music: 'keeps its bars' });
    expect(none.changes[0]!.detail ?? '').not.toContain('moved along');
  });

  it('two of a key that would begin together: one stays, and it is said', () => {
    const twice = songOf([end(2)], [...note(288, 48, 60), ...note(384, 48, 60), end(2)]);
    const { song: after, report } = inThree(twice, 1, { music: 'keeps its bars' });
    expect(lines(after, 1).filter((l) => l.includes(' 90 '))).toEqual([on(288, 60)]);
    expect(report.changes[0]!.detail).toContain(
      '1 note taken out, where one of the key begins already',
    );
  });

  it('no two tempos on one tick: one whose bar ended before it says nothing where another stands', () => {
    const tempos = songOf([tempo(0), tempo(288), tempo(384), end(2)]);
    const { song: after } = inThree(tempos, 1, { music: 'keeps its bars' });
    expect(timingOf(after).tempos.map((t) => t.atTick)).toEqual([0, 288]);
    const alone = songOf([tempo(0), tempo(300), end(2)]);
    const { song: moved } = inThree(alone, 1, { music: 'keeps its bars' });
    expect(timingOf(moved).tempos.map((t) => t.atTick)).toEqual([0, 288]);
  });

  it('bars that become longer leave their new beats empty', () => {
    const { song: after } = take(song, 'timing.meter', {
      bar: 1,
      numerator: 5,
      music: 'keeps its bars',
    });
    expect(lines(after, 1).filter((l) => l.includes(' 90 '))).toEqual([
      on(0, 60),
      on(288, 62),
      on(480, 64),
      on(960, 65),
    ]);
    expect(lines(after, 1)).toContain(off(864, 64));
  });
});

it('whatever a song holds, what begins within its new bar begins on the bar and beat where it did', () => {
  fc.assert(
    fc.property(
      madeSong,
      fc.integer({ min: 1, max: 6 }),
      fc.constantFrom(2, 3, 5, 7),
      (song, bar, beats) => {
        const { song: after } = take(song, 'timing.meter', {
          bar,
          numerator: beats,
          music: 'keeps its bars',
        });
        const [old, now] = [song, after].map((s) => meterMap(timingOf(s).meters, s.division)) as [
          ReturnType<typeof meterMap>,
          ReturnType<typeof meterMap>,
        ];
        const said = ({ tracks }: Song, map: typeof old): Set<string> =>
          new Set(
            tracks.flatMap(({ id, events }) =>
              Array.from({ length: events.count }, (_, i) => i)
                .filter(
                  (i) =>
                    events.status[i]! >> 4 === 9 ||
                    (events.status[i] === META && events.data1[i] === meta.marker),
                )
                .map(
                  (i) =>
                    `${id} ${positionText(positionAt(map, events.atTick[i]!))} ${events.status[i]} ${events.data1[i]} ${events.data2[i]}`,
                ),
            ),
          );
        const had = said(song, old);
        const has = said(after, now);
        for (const one of had) {
          const [, position] = one.split(' ');
          const [its, beat, tick] = position!.split('.').map(Number) as [number, number, number];
          const line = now.findLast((s) => s.bar <= its)!;
          const lasts = (now.find((s) => s.bar === its + 1)?.atTick ?? Infinity) - line.atTick;
          const into = (beat - 1) * line.beatTicks + tick;
          if (into < Math.min(line.barTicks, lasts)) expect([...has]).toContain(one);
        }
      },
    ),
    { seed: 345, numRuns: scaleRuns(300) },
  );
});
