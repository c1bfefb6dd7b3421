import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { notesOn } from '../../../../tests/support/by-reader.ts';
import { metByNotes } from '../../../../tests/support/instrument-state.ts';
import { madeSong } from '../../../../tests/support/made-songs.ts';
import { controller, note, songOf } from '../../../../tests/support/songs.ts';
import { channelEvent, eventValues, meta, metaEvent } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { barTick, barsUntil, meterMap } from '../../../timing/meter-map.ts';
import { runStep } from '../../run.ts';
import { sourceKey } from '../../sources.ts';

const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };

function asked(song: Song, source: Song, settings: object) {
  return runStep(
    song,
    { operation: 'tracks.bring-in', settings: { source: name, ...settings } },
    new Map([[sourceKey(name), source]]),
  );
}

function bring(song: Song, source: Song, settings: object) {
  const done = asked(song, source, settings);
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return done.value;
}

const text = (tick: number, type: number, says: string) => metaEvent(tick, type, encodeText(says));
const horn = songOf([
  text(0, meta.trackName, 'Horn'),
  channelEvent(0, 0xc2, 60),
  controller(0, 7, 90, 2),
  ...note(0, 96, 60, 80, 2),
  ...note(380, 96, 61, 80, 2),
  controller(390, 11, 50, 2),
  ...note(400, 800, 62, 80, 2),
  ...note(768, 96, 63, 80, 2),
]);
const here = songOf([], note(0, 1000, 40));

describe('some bars of a source', () => {
  it('come in at a bar, with what is in force as they begin, and whole notes (hand-worked)', () => {
    const { song, report, described } = bring(here, horn, {
      bars: { from: 2, to: 2 },
      at: { bar: 5 },
    });
    // Bar 2 begins at tick 384, bar 5 at 1,536: all is 1,152 later.
    expect(notesOn(song)[2]).toEqual([[1552, 62]]);
    expect(metByNotes({ ...song, tracks: song.tracks.slice(2) })).toEqual(
      metByNotes(horn)
        .filter((line) => line.startsWith('2 400 '))
        .map((line) => line.replace('2 400', '2 1552')),
    );
    expect(report.told).toContain('1 note that sounds into bar 2 from before, left.');
    expect(described).toBe('Brought in Horn of “x.mid”, its bar 2, at bar 5');
  });

  it('at their own bars stand where they stood', () => {
    const { song } = bring(here, horn, { bars: { from: 2, to: 3 } });
    expect(notesOn(song)[2]).toEqual([
      [400, 62],
      [768, 63],
    ]);
  });

  it('bring the map of these bars alone', () => {
    const source = songOf([
      metaEvent(0, meta.tempo, Uint8Array.of(7, 161, 32)),
      metaEvent(500, meta.tempo, Uint8Array.of(9, 39, 192)),
      text(384, meta.marker, 'In'),
      text(800, meta.marker, 'Out'),
      ...note(0, 900, 60),
    ]);
    const { song } = bring(here, source, {
      bars: { from: 2, to: 2 },
      tracks: 'none',
      at: { bar: 3 },
      map: { tempos: 'replace', markers: 'replace' },
    });
    const { tempos, markers } = timingOf(song);
    // 120 BPM is 500,000 µs a quarter, in force from bar 2 on; 600,000 begins 116 ticks into it. Bar 3
    // begins at tick 768.
    expect(tempos.map((t) => [t.atTick, t.tempo])).toEqual([[884, 600_000]]);
    expect(markers.map((m) => [m.atTick, m.text])).toEqual([[768, 'In']]);
  });

  it('that a part has nothing in bring none of it', () => {
    const done = asked(here, songOf(horn.tracks[0]!.events, note(768, 96, 50, 80, 3)), {
      bars: { from: 1, to: 2 },
      tracks: ['t1', 't2'],
    });
    if (!done.ok) throw new Error(done.problem.code);
    expect(done.value.song.tracks).toHaveLength(3);
    expect(done.value.report.skipped).toContainEqual({
      name: 'track 2',
      why: 'It plays nothing.',
    });
  });

  it('behind the end of the source are refused', () => {
    const done = asked(here, horn, { bars: { from: 40, to: 41 } });
    expect(done.ok ? 'done' : done.problem.code).toBe('scope-behind-end');
  });

  it('each note that begins in them, and no other, stands where it did, by the reader', () => {
    fc.assert(
      fc.property(madeSong, fc.integer({ min: 1, max: 4 }), (source, from) => {
        if (source.division.kind === 'smpte') return;
        const empty = { ...songOf([]), division: source.division };
        const { song } = bring(empty, source, { tracks: 'none', map: { meters: 'replace' } });
        const whole = bring(song, source, {});
        const part = asked(song, source, { bars: { from, to: from + 1 } });
        if (!part.ok) {
          expect(part.problem.code).toBe('scope-behind-end');
          return;
        }
        const meters = meterMap(timingOf(source).meters, source.division);
        const [begins, ends] = [barTick(meters, from), barTick(meters, from + 2)];
        const last = from + 2 > barsUntil(meters, timingOf(source).endTick);
        const within = notesOn(whole.song)
          .flat()
          .filter(([tick]) => tick >= begins && (last || tick < ends));
        expect(notesOn(part.value.song).flat()).toEqual(within);
      }),
      { numRuns: scaleRuns(60) },
    );
  });
});

describe('chosen events of a source', () => {
  const rowsOf = (song: Song, keep: (key: number) => boolean): [number, number][] => {
    const { events } = song.tracks[0]!;
    return Array.from({ length: events.count }, (_, i) => i)
      .filter((i) => events.status[i]! >> 4 === 9 && keep(events.data1[i]!))
      .map((i) => [i, i]);
  };

  it('go onto the track they came from at another bar, counted from the bar of the first', () => {
    const rows = { t1: rowsOf(horn, (key) => key > 60) };
    const { song, described } = bring(horn, horn, {
      rows,
      at: { bar: 5 },
      onto: [{ track: 't1', to: 't1' }],
    });
    // The first of them is in bar 1, 380 ticks in: it is 1,536 + 380 in bar 5; all others are as far behind
    // it as they were.
    expect(notesOn(song)[0]!.slice(4)).toEqual([
      [1916, 61],
      [1936, 62],
      [2304, 63],
    ]);
    expect(song.tracks).toHaveLength(1);
    expect(described).toContain('some of its events, at bar 5');
  });

  it('bring nothing beside: no state, no texts', () => {
    const { song } = bring(here, horn, { rows: { t1: rowsOf(horn, (key) => key === 62) } });
    const { events } = song.tracks[2]!;
    expect([...events.status].filter((s) => s < 0xf0)).toEqual([0x92, 0x82]);
  });

  it('that the source does not have are refused in words', () => {
    const done = asked(here, horn, { rows: { t1: [[0, 900]] } });
    expect(done.ok ? 'done' : done.problem).toMatchObject({
      code: 'settings-invalid',
      where: { field: 'settings.rows.t1' },
    });
  });
});

describe('notes over the edges of the bars that come in', () => {
  // From bar 1 into bar 2, and from bar 2 into bar 3: a bar of 4/4 at 96 PPQ is 384 ticks.
  const source = songOf([...note(300, 200, 60), ...note(600, 400, 62), ...note(800, 96, 64)]);
  const played = (edges: 'cut' | 'with their beginning'): string[] => {
    const name = { original: 'e'.repeat(64), part: 1 };
    const done = runStep(
      songOf(note(0, 96, 40, 80, 5)),
      {
        operation: 'tracks.bring-in',
        settings: { source: name, bars: { from: 2, to: 2 }, at: { bar: 1 }, edges },
      },
      new Map([[sourceKey(name), source]]),
    );
    if (!done.ok) throw new Error(done.problem.code);
    return eventValues(done.value.song.tracks[1]!.events)
      .filter((e) => e.status >> 4 === 9 || e.status >> 4 === 8)
      .map((e) => `${e.atTick} ${e.status >> 4 === 9 ? 'on' : 'off'} ${e.data1}`);
  };

  it('go with their beginning, or are cut on both sides (hand-worked)', () => {
    expect(played('with their beginning')).toEqual(['216 on 62', '616 off 62']);
    expect(played('cut')).toEqual(['0 on 60', '116 off 60', '216 on 62', '384 off 62']);
  });
});
