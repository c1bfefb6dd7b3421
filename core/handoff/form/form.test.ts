import fc from 'fast-check';
import iconv from 'iconv-lite';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { controller, note, songOf } from '../../../tests/support/songs.ts';
import { plainEvents } from '../../../tests/support/independent.ts';
import {
  channelEvent,
  eventValues,
  meta,
  metaEvent,
  payloadOf,
  type EventValue,
} from '../../smf/events.ts';
import { encodeText } from '../../smf/text.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { greatestDistance, tempoMap, ticksToSeconds } from '../../timing/tempo-map.ts';
import { tempoEvent } from '../../edit/edit-map.ts';
import { taken } from '../part/taken.ts';
import { handoffSettings } from '../settings.ts';
import { channelsFormed } from './channels.ts';
import { fewerASecond } from './fewer-a-second.ts';
import { inKaraokeOrder } from './karaoke.ts';
import { tempoFormed } from './tempo.ts';
import { lettersFormed, writtenAs } from './text.ts';

const ppq96 = { kind: 'ppq', ticksPerQuarter: 96 } as const;
const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));
const lines = (song: Song): string[][] => song.tracks.map((t) => plainEvents(t.events));
const form = (asked: object) => ({ ...handoffSettings.parse({}).form, ppq: null, ...asked });

describe('a tempo map for a receiver that reads none', () => {
  // 120 BPM for a bar of 4/4, which is 2 s, then 60 BPM: a quarter lasts 1 s (arithmetic anyone can redo).
  const song = songOf(
    [tempoEvent(0, 500_000), tempoEvent(384, 1_000_000), metaEvent(768, meta.endOfTrack)],
    [...note(384, 96, 60), ...note(480, 96, 62)],
  );

  it('as it sounds: a quarter at 60 BPM takes two at 120', () => {
    const { song: one, notes } = tempoFormed(song, form({ tempo: 'one, as it sounds' }));
    expect(lines(one)[1]).toEqual([
      '384 903c50',
      '576 803c40',
      '576 903e50',
      '768 803e40',
      '768 ff2f',
    ]);
    expect(timingOf(one).tempos).toEqual([{ atTick: 0, tempo: 500_000 }]);
    expect(notes[0]).toContain('at most 0.00 ms off');
  });

  it('in its bars: nothing moves, and the greatest error is told', () => {
    const { song: one, notes } = tempoFormed(song, form({ tempo: 'one, in its bars', bpm: 120 }));
    expect(lines(one)[1]).toEqual(lines(song)[1]);
    // Two bars at 120 BPM last 4 s, here 2 + 4 = 6 s.
    expect(notes[0]).toContain('at most 2.00 s from where it sounds here');
  });

  it('in its bars without a tempo: it lasts as long as here', () => {
    const { song: one } = tempoFormed(song, form({ tempo: 'one, in its bars' }));
    const lasts = (s: Song): number =>
      ticksToSeconds(tempoMap(timingOf(s).tempos, s.division), timingOf(s).endTick);
    expect(lasts(one)).toBeCloseTo(lasts(song), 3);
  });

  it('fewer tempos a second: no two are nearer than that, what follows each stands where it did, and the end too', () => {
    const point = fc.record({
      gap: fc.integer({ min: 1, max: 200 }),
      tempo: fc.integer({ min: 200_000, max: 1_500_000 }),
    });
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 1, maxLength: 60 }),
        fc.constantFrom(0.5, 1, 2, 10, 40),
        fc.integer({ min: 1, max: 5000 }),
        (points, most, more) => {
          let tick = 0;
          const tempos = points.map(({ gap, tempo }) => ({ atTick: (tick += gap), tempo }));
          const end = tick + more;
          const before = tempoMap(tempos, ppq96);
          const made = fewerASecond(tempos, ppq96, most, end);
          const after = tempoMap(made ?? tempos, ppq96);
          const times = [...after.ticks].map((t) => ticksToSeconds(after, t));
          times
            .slice(1)
            .forEach((t, i) => expect(t - times[i]!).toBeGreaterThanOrEqual(1 / most - 1e-9));
          if (!made) return;
          // Each tempo begins when it would in the map as it was, but for whole microseconds a quarter.
          for (const t of after.ticks)
            expect(Math.abs(ticksToSeconds(after, t) - ticksToSeconds(before, t))).toBeLessThan(
              0.001,
            );
          expect(Math.abs(ticksToSeconds(after, end) - ticksToSeconds(before, end))).toBeLessThan(
            0.001,
          );
          expect(greatestDistance(before, after)).toBeLessThan(2 / most + 0.01);
        },
      ),
      { seed: 26, numRuns: scaleRuns(600) },
    );
  });
});

describe('letters for a receiver', () => {
  it('that it lacks are written with those it has, each told; the bytes are what an independent library writes (npm iconv-lite)', () => {
    expect(writtenAs('Größe', 'ASCII').text).toBe('Grosse');
    expect(writtenAs('Größe', 'Latin-1').bytes).toEqual(
      new Uint8Array(iconv.encode('Größe', 'latin1')),
    );
    expect(writtenAs('東京 Größe', 'Shift-JIS').bytes).toEqual(
      new Uint8Array(iconv.encode('東京 Grosse', 'shift_jis')),
    );
    expect(writtenAs('a\u{10ffff}b', 'ASCII').text).toBe('a?b');
  });

  it('for ASCII a name, a marker or a text is one line; a lyric keeps its line ends (RP-017)', () => {
    const song = songOf([
      text(0, meta.trackName, 'Upper\nvoices\r\n'),
      text(96, meta.lyric, 'moon\r'),
      text(192, meta.marker, 'Verse\t1'),
    ]);
    const said = (its: Song): string[] =>
      eventValues(its.tracks[0]!.events).map((e) => String.fromCharCode(...(e.payload ?? [])));
    expect(said(lettersFormed(song, 'ASCII').song).slice(0, 3)).toEqual([
      'Upper voices',
      'moon\r',
      'Verse 1',
    ]);
    expect(lettersFormed(song, 'UTF-8').song).toEqual(song);
    // Blanks alone are no line ends.
    const blank = songOf([text(0, meta.text, ' ')]);
    expect(lettersFormed(blank, 'ASCII').song).toEqual(blank);
  });

  it('leave texts that read the same as they are, and change names, lyrics and markers alike', () => {
    const song = songOf([
      text(0, meta.trackName, 'Flöte'),
      text(96, meta.lyric, 'süß'),
      text(192, meta.marker, 'Refrain'),
    ]);
    const { song: plain, notes } = lettersFormed(song, 'ASCII');
    const said = [0, 1, 2].map((i) =>
      Buffer.from(payloadOf(plain.tracks[0]!.events, i)).toString('latin1'),
    );
    expect(said).toEqual(['Flote', 'suss', 'Refrain']);
    expect(notes).toEqual([
      'Letters that ASCII lacks were written with those it has: “Flöte” is “Flote”, “süß” is “suss”.',
    ]);
    expect(lettersFormed(song, 'UTF-8').song.tracks[0]).toBe(song.tracks[0]);
  });
});

describe('channels', () => {
  it('of their own: what another track said on the channel that is left is said on the new one, where it was said', () => {
    const song = songOf(
      [channelEvent(0, 0xc0, 40), ...note(0, 96, 60), controller(96, 11, 50)],
      [...note(0, 96, 48), ...note(192, 96, 50)],
    );
    const { song: own, notes } = channelsFormed(song, 'one each');
    expect(lines(own)).toEqual([
      ['0 c028', '0 903c50', '96 803c40', '96 b00b32', '96 ff2f'],
      ['0 c128', '0 913050', '96 b10b32', '96 813040', '192 913250', '288 813240', '288 ff2f'],
    ]);
    expect(notes).toEqual([]);
  });

  it('by a list: a track that stays has what those that go said there', () => {
    const song = songOf([channelEvent(0, 0xc0, 40), ...note(0, 96, 60)], note(0, 96, 48));
    const { song: moved } = channelsFormed(song, [{ track: 't1', channel: 5 }]);
    expect(lines(moved)[1]).toEqual(['0 c028', '0 903050', '96 803040', '96 ff2f']);
  });

  it('more parts than there are share one, which is told', () => {
    const many = songOf(...Array.from({ length: 17 }, () => note(0, 96, 60)));
    expect(channelsFormed(many, 'one each').notes[0]).toContain('more parts than channels');
  });
});

describe('what leaves', () => {
  const all = handoffSettings.parse({}).take;

  it('bends keep their range where controllers stay', () => {
    const song = songOf([
      controller(0, 101, 0),
      controller(0, 100, 0),
      controller(0, 6, 12),
      controller(0, 101, 127),
      controller(0, 100, 127),
      controller(0, 101, 0),
      controller(0, 100, 1),
      controller(0, 6, 64),
      controller(0, 1, 90),
      channelEvent(0, 0xe0, 0, 80),
      ...note(0, 96, 60),
    ]);
    const left = lines(taken(song, { ...all, controllers: false }).song)[0];
    expect(left).toEqual([
      '0 b06500',
      '0 b06400',
      '0 b0060c',
      '0 b0657f',
      '0 b0647f',
      '0 e00050',
      '0 903c50',
      '96 803c40',
      '96 ff2f',
    ]);
  });

  it('marks leave as the kind that is asked for, sections apart, and what is left out is counted', () => {
    const song = songOf([
      text(0, meta.marker, 'Verse'),
      text(96, meta.cuePoint, 'Door'),
      text(384, meta.marker, 'Verse (end)'),
      text(400, meta.marker, 'Here'),
      text(500, meta.copyright, '2026'),
    ]);
    const kinds = (asked: object) =>
      lines(taken(song, { ...all, ...asked }).song)[0]!.map((e) => e.split(' ')[1]);
    expect(kinds({ markers: 'cue points' })).toEqual([
      'ff07',
      'ff07',
      'ff07',
      'ff07',
      'ff02',
      'ff2f',
    ]);
    expect(kinds({ markers: 'none' })).toEqual(['ff06', 'ff06', 'ff02', 'ff2f']);
    expect(kinds({ sections: false, copyright: false })).toEqual(['ff07', 'ff06', 'ff2f']);
    expect(taken(song, { ...all, sections: false, copyright: false }).notes).toEqual([
      'Left out as asked: 2 marks of sections, 1 copyright notice.',
    ]);
  });
});

describe('karaoke order (soft-karaoke files, common practice)', () => {
  it('has the words as texts in a track of their own, pages and lines marked', () => {
    const song = songOf(
      [text(0, meta.trackName, 'Map')],
      [
        ...note(0, 96, 60),
        text(0, meta.lyric, 'La '),
        text(96, meta.lyric, 'la\r'),
        text(192, meta.lyric, 'lo\n'),
        text(288, meta.lyric, 'li'),
      ],
    );
    const { song: sung } = inKaraokeOrder({ ...song, title: 'Song' }, 'ENGL');
    const hex = (said: string): string => Buffer.from(said).toString('hex');
    expect(lines(sung)[1]).toEqual([
      `0 ff03 ${hex('Words')}`,
      `0 ff01 ${hex('@KMIDI KARAOKE FILE')}`,
      `0 ff01 ${hex('@LENGL')}`,
      `0 ff01 ${hex('@TSong')}`,
      `0 ff01 ${hex('\\La ')}`,
      `96 ff01 ${hex('la')}`,
      `192 ff01 ${hex('/lo')}`,
      `288 ff01 ${hex('\\li')}`,
      '288 ff2f',
    ]);
    expect(lines(sung)[2]!.some((e) => e.includes('ff05'))).toBe(false);
    expect(inKaraokeOrder(sung, '').song).toBe(sung);
  });
});
