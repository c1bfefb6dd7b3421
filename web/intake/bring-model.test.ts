import { describe, expect, it } from 'vitest';
import type { OriginalView, SongView } from '#contracts/songs.ts';
import { trackView } from '#contracts/track-view.ts';
import { metaEvent, meta } from '#core/smf/events.ts';
import { encodeText } from '#core/smf/text.ts';
import { summariseSong } from '#core/song/song-summary.ts';
import type { Song } from '#core/song/song.ts';
import { exampleSource } from '../../tests/support/examples.ts';
import { channelEvent } from '../../core/smf/events.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import {
  alike,
  barBehind,
  givingTracks,
  landsIn,
  proposed,
  settingsOf,
  stepOf,
  whatToKnow,
  type Held,
} from './bring-model.ts';
import { likenesses } from './likeness.ts';
import { laidOnRow } from './on-a-row.ts';

function held(song: Song): Held {
  const { tracks, ...rest } = summariseSong(song);
  return {
    ...rest,
    title: song.title,
    division: song.division,
    divisionText: '',
    tracks: tracks.map((t) => trackView(t, '')),
  } as unknown as Held;
}
const view = (song: Song): SongView => held(song) as unknown as SongView;
const here = songOf([], note(0, 96, 50, 80, 2), note(96, 288, 52, 80, 2));
const source = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };

describe('what is proposed of a file', () => {
  const brass = held(exampleSource);

  it('is all that plays, at its own bars, and nothing of the map where the song has music', () => {
    const wanted = proposed(view(here), brass, {});
    expect(wanted).toMatchObject({ tracks: ['t2', 't3'], at: { own: true }, keep: 'bars' });
    expect(new Set(Object.values(wanted.map))).toEqual(new Set(['none']));
    expect(settingsOf(source, wanted, 2)).toMatchObject({ source, tracks: 'all', onto: [] });
  });

  it('is its map, too, where the song has none of its own; the scope’s bar; the tracks that were copied', () => {
    const wanted = proposed(view(songOf([])), brass, { from: 17, tracks: ['t3', 't9'] });
    expect(wanted).toMatchObject({
      at: { bar: 17 },
      tracks: ['t3'],
      map: { tempos: 'replace', meters: 'replace', markers: 'replace', keys: 'none' },
    });
  });

  it('leaves what was typed as it is, and of several files the first alone gives the map', () => {
    // 120 BPM was typed: the file's tempos and meters stay out, its markers come.
    const typed = view(songOf([metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))]));
    expect(proposed(typed, brass, {}).map).toMatchObject({
      tempos: 'none',
      meters: 'none',
      markers: 'replace',
    });
    const second = proposed(view(songOf([])), brass, { isFirst: false });
    expect(new Set(Object.values(second.map))).toEqual(new Set(['none']));
  });

  it('keeps seconds where one of the two counts in frames', () => {
    const frames = {
      ...here,
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
    } as unknown as Song;
    expect(proposed(view(frames), brass, {}).keep).toBe('seconds');
  });

  it('a track of nothing but a name and the map has nothing to give', () => {
    const bare = songOf([metaEvent(0, meta.trackName, encodeText('Map'))], note(0, 9, 60));
    expect(givingTracks(held(bare)).map((t) => t.id)).toEqual(['t2']);
    expect(givingTracks(held(songOf([])))).toEqual([]);
  });
});

describe('parts that belong onto tracks that are there', () => {
  const named = (name: string, ...events: ReturnType<typeof note>) => [
    metaEvent(0, meta.trackName, encodeText(name)),
    ...events,
  ];

  it('are those of the same name, then those of the same channel and program; never two onto one', () => {
    const song = songOf(
      named('Bass', ...note(0, 9, 40, 80, 1)),
      named('Lead', channelEvent(0, 0xc3, 80), ...note(0, 9, 70, 80, 3)),
      named('Pad', ...note(0, 9, 60, 80, 4)),
    );
    const other = songOf(
      named(' bass ', ...note(0, 9, 41, 80, 7)),
      named('Solo', channelEvent(0, 0xc3, 80), ...note(0, 9, 71, 80, 3)),
      named('Solo again', channelEvent(0, 0xc3, 80), ...note(0, 9, 71, 80, 3)),
      named('Keys', channelEvent(0, 0xc4, 4), ...note(0, 9, 60, 80, 4)),
    );
    expect(likenesses(view(song), held(other))).toEqual({ t1: 't1', t2: 't2' });
  });

  it('parts that came back under other names go where they played much the same; others do not', () => {
    const tune = [0, 96, 192, 288, 384].flatMap((at, n) => note(at, 90, 60 + n, 80, 2));
    const bass = [0, 192, 384].flatMap((at) => note(at, 90, 36, 80, 3));
    const song = songOf(tune, bass);
    // The tune without its last note, on another channel; a line that plays elsewhere in its range; drums
    // like the bass.
    const other = songOf(
      named('Lead', ...[0, 96, 192, 288].flatMap((at, n) => note(at, 90, 60 + n, 80, 7))),
      named('Answer', ...[600, 700, 800].flatMap((at) => note(at, 20, 36, 80, 8))),
      named('Kit', ...[0, 192, 384].flatMap((at) => note(at, 90, 36, 80, 9))),
    );
    expect(likenesses(view(song), held(other))).toEqual({ t1: 't1' });
  });

  it('choices for one file hold for others, but for what of the map they do not have', () => {
    const brass = held(exampleSource);
    const one = {
      ...proposed(view(songOf([])), brass, {}),
      keep: 'seconds' as const,
      tracks: ['t9'],
    };
    const plain = held(songOf(note(0, 96, 60)));
    const other = alike(proposed(view(here), plain, {}), one, plain);
    expect(other).toMatchObject({ keep: 'seconds', tracks: ['t1'], at: { own: true } });
    expect(other.map.tempos).toBe('none');
    expect(alike(proposed(view(here), brass, {}), one, brass).map.tempos).toBe('replace');
  });
});

describe('where it lands', () => {
  it('in bars by the ratio of the ticks; in seconds over both tempos', () => {
    const brass = held(exampleSource);
    // Bar 3 of 4/4 at 96 ticks a quarter is tick 768; twelve quarters are 1,152 of them (hand-worked).
    const inBars = landsIn(view(here), brass, { at: { bar: 3 }, keep: 'bars', bars: null });
    expect([inBars.begins, inBars.at(480), inBars.ends]).toEqual([768, 864, 1920]);
    // Twelve quarters at 90 BPM (0.666667 s each) are 8.000004 s, sixteen quarters of 0.5 s here: 1,536 ticks.
    const inSeconds = landsIn(view(here), brass, {
      at: { own: true },
      keep: 'seconds',
      bars: null,
    });
    expect(Math.round(inSeconds.ends)).toBe(1536);
  });

  it('some of its bars: the first of them at the place, or at the bar that it is', () => {
    const brass = held(exampleSource);
    const [keep, bars] = ['bars' as const, { from: 2, to: 2 }];
    const atThree = landsIn(view(here), brass, { at: { bar: 3 }, keep, bars });
    // Bar 2 of its 3/4 at 480 ticks a quarter is tick 1,440 up to 2,880: 288 ticks here (hand-worked).
    expect(atThree.taken).toEqual({ from: 1440, to: 2880 });
    expect([atThree.at(1440), atThree.ends]).toEqual([768, 1056]);
    const own = landsIn(view(here), brass, { at: { own: true }, keep, bars });
    expect([own.begins, own.ends]).toEqual([384, 672]);
  });

  it('one behind the other: on the next bar line, and bars of rest between', () => {
    const brass = held(exampleSource);
    const wanted = { ...proposed(view(here), brass, {}), at: { bar: 1 } };
    // Three bars of 4/4 hold its twelve quarters.
    expect(barBehind(view(here), brass, wanted, 0)).toBe(4);
    expect(barBehind(view(here), brass, wanted, 2)).toBe(6);
  });

  it('several files are one step with a blank for each, none where nothing is taken', () => {
    const brass = held(exampleSource);
    const wanted = proposed(view(here), brass, {});
    const two = stepOf([
      { source, wanted, held: brass },
      { source: { ...source, part: 2 }, wanted, held: brass },
    ]);
    expect(two).toMatchObject({
      operation: 'recipe.run',
      settings: {
        steps: [{ settings: { source: { blank: 'File 1' } } }, {}],
        sources: { 'File 2': { part: 2 } },
      },
    });
    expect(stepOf([{ source, wanted: { ...wanted, tracks: [] }, held: brass }])).toBeUndefined();
  });

  it('laid onto a row: from the scope’s bar, or behind what the row plays', () => {
    const file = {
      sha256: 'b'.repeat(64),
      fileName: 'b.mid',
      parts: [{ ...held(exampleSource), part: 1 }],
    } as unknown as OriginalView;
    const at = (from?: number): unknown[] => {
      const asked = laidOnRow(view(here), 't3', [file, file], from)!;
      return (asked.settings!.steps as { settings: { at: unknown; onto: object[] } }[]).map(
        ({ settings }) => [settings.at, settings.onto.length],
      );
    };
    expect(at(5)).toEqual([
      [{ bar: 5 }, 2],
      [{ bar: 8 }, 2],
    ]);
    // The row's last note ends with bar 1.
    expect(at()).toEqual([
      [{ bar: 2 }, 2],
      [{ bar: 5 }, 2],
    ]);
  });
});

describe('what will not translate well', () => {
  it('is said in plain words', () => {
    const parts = songOf(
      [metaEvent(0, meta.trackName, encodeText('Map'))],
      [channelEvent(0, 0xc0, 3), channelEvent(48, 0xc0, 9), ...note(0, 96, 60), ...note(96, 9, 61)],
      note(0, 96, 62),
    );
    const other = { ...parts, division: { kind: 'ppq', ticksPerQuarter: 100 } as const };
    const words = whatToKnow(view(here), held(other)).join(' ');
    expect(words).toContain('2 parts have no name.');
    expect(words).toContain('All parts are on channel 1.');
    expect(words).toContain('Programs change inside 1 part.');
    // Half of a tick of 1/96 of 0.5 s is 2.604 ms (hand-worked).
    expect(words).toContain('at most 2.60 ms');
    expect(whatToKnow(view(here), held(songOf([])))).toEqual(['It holds no notes.']);
    const told = whatToKnow(view(here), held(exampleSource));
    expect(told).toEqual(
      expect.arrayContaining([
        'Its meter is 3/4, here it is 4/4.',
        'Its tempo is 90 BPM, here it is 120 BPM.',
      ]),
    );
  });
});
