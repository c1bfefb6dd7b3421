import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { notesOn, secondsIn } from '../../../../tests/support/by-reader.ts';
import { exampleSource } from '../../../../tests/support/examples.ts';
import { readIndependently } from '../../../../tests/support/independent.ts';
import { madeSong } from '../../../../tests/support/made-songs.ts';
import { note, songOf } from '../../../../tests/support/songs.ts';
import { meta, metaEvent } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import { writeSmf } from '../../../smf/write.ts';
import type { Song } from '../../../song/song.ts';
import { timingOf } from '../../../song/timing-of.ts';
import { runStep } from '../../run.ts';
import { sourceKey } from '../../sources.ts';

const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };
const every = (way: 'replace' | 'add') => ({
  tempos: way,
  meters: way,
  keys: way,
  markers: way,
  sections: way,
  timecode: way,
});

const asked = (settings: object) => ({
  operation: 'tracks.bring-in',
  settings: { source: name, ...settings },
});
const take = (song: Song, source: Song, settings: object) =>
  runStep(song, asked(settings), new Map([[sourceKey(name), source]]));

function taken(song: Song, source: Song, settings: object) {
  const done = take(song, source, settings);
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return done.value;
}

/**
 * Lines of the map as an independent reader (npm midi-file) finds them in any track: tempo, meter, key,
 * marker, cue point (SMF 1.0: FF 51, 58, 59, 06, 07).
 */
const mapLines = (song: Song): string[] =>
  readIndependently(writeSmf({ ...song, format: 1 }))
    .tracks.flat()
    .filter((line) => /^\d+ ff(51|58|59|06|07) /.test(line))
    .sort();

const inQuarters = madeSong.filter(({ division }) => division.kind === 'ppq');

describe('a map that is brought in', () => {
  it('with all of its file into a song of nothing is that of the file, and so are the parts, event for event', () => {
    fc.assert(
      fc.property(inQuarters, (source) => {
        const nothing = { ...songOf([]), division: source.division };
        const { song } = taken(nothing, source, { map: every('replace'), channels: 'as they are' });
        expect(mapLines(song)).toEqual(mapLines(source));
        const parts = ({ tracks }: Song, from: number) =>
          notesOn({ ...source, tracks }, from).filter((notes) => notes.length > 0);
        expect(parts(song, 1)).toEqual(parts(source, 0));
        const [is, was] = [timingOf(song), timingOf(source)];
        expect(is.sections.map((s) => [s.name, s.fromTick, s.toTick])).toEqual(
          was.sections.map((s) => [s.name, s.fromTick, s.toTick]),
        );
        expect(is.timecode).toEqual(was.timecode);
      }),
      { seed: 81, numRuns: scaleRuns(150) },
    );
  });

  it('alone over music that keeps its seconds leaves every note within half a tick of its time', () => {
    fc.assert(
      fc.property(inQuarters, inQuarters, (song, source) => {
        const done = take(song, source, {
          tracks: 'none',
          map: { tempos: 'replace', meters: 'replace', keys: 'replace' },
          music: 'keeps its seconds',
        });
        if (!done.ok) throw new Error(done.problem.code);
        const [then, now] = [secondsIn(song), secondsIn(done.value.song)];
        const [was, is] = [notesOn(song), notesOn(done.value.song)];
        is.forEach((notes, t) => {
          const old = was[t]!.map(([tick]) => then(tick)).sort((a, b) => a - b);
          const there = notes.map(([tick]) => tick).sort((a, b) => a - b);
          expect(there.length).toBe(old.length);
          there.forEach((tick, n) => {
            expect(now(tick - 0.5) - 1e-9).toBeLessThanOrEqual(old[n]!);
            expect(now(tick + 0.5) + 1e-9).toBeGreaterThanOrEqual(old[n]!);
          });
        });
      }),
      { seed: 82, numRuns: scaleRuns(120) },
    );
  });

  it('from a bar on: what stands before it stays; what is in force unsaid is said there, unless it is in force anyway', () => {
    const song = songOf([
      metaEvent(0, meta.tempo, Uint8Array.of(0x07, 0xa1, 0x20)),
      metaEvent(192, meta.tempo, Uint8Array.of(0x09, 0x27, 0xc0)),
      metaEvent(768, meta.tempo, Uint8Array.of(0x06, 0x1a, 0x80)),
    ]);
    const source = { ...songOf(note(0, 96, 60)), title: 'Plain' };
    const done = taken(song, source, {
      tracks: 'none',
      at: { bar: 3 },
      map: { tempos: 'replace', meters: 'replace' },
    });
    // Bar 3 of 4/4 at 96 PPQ is tick 768 (hand-worked); a file without tempo or meter is at 120 BPM in 4/4
    // (SMF 1.0), and 4/4 it is there anyway.
    expect(mapLines(done.song)).toEqual(['0 ff51 500000', '192 ff51 600000', '768 ff51 500000']);
    const again = taken(done.song, source, {
      tracks: 'none',
      at: { bar: 5 },
      map: { tempos: 'replace', meters: 'replace' },
    });
    expect([again.report.changes, again.song]).toEqual([[], done.song]);
  });

  it('is added only where the song states none; marks that stand there already are not doubled', () => {
    const marked = (...texts: string[]) =>
      songOf(
        [
          metaEvent(0, meta.tempo, Uint8Array.of(0x07, 0xa1, 0x20)),
          ...texts.map((text, n) => metaEvent(n * 96, meta.marker, encodeText(text))),
        ],
        note(0, 96, 60),
      );
    const done = taken(marked('In'), marked('In', 'Out'), { tracks: 'none', map: every('add') });
    expect(timingOf(done.song).markers.map((m) => m.text)).toEqual(['In', 'Out']);
    expect(done.report.skipped.map((s) => s.why)).toEqual([
      'This song states its tempos, which stay.',
    ]);
  });

  it('a section whose beginning stays keeps its end; one that could not be told is refused by its name', () => {
    const of = (...marks: [number, string][]) =>
      songOf(
        marks.map(([tick, text]) => metaEvent(tick, meta.marker, encodeText(text))),
        note(0, 96, 60),
      );
    const song = of([0, 'Verse'], [1152, 'Verse (end)'], [1152, 'Outro'], [1536, 'Outro (end)']);
    const source = of([0, 'Bridge'], [192, 'Bridge (end)']);
    const done = taken(song, source, {
      tracks: 'none',
      at: { bar: 3 },
      map: { sections: 'replace' },
    });
    expect(timingOf(done.song).sections.map((s) => [s.name, s.fromTick, s.toTick])).toEqual([
      ['Verse', 0, 1152],
      ['Bridge', 768, 960],
    ]);
    const twice = take(
      of([0, 'A'], [1536, 'A (end)']),
      of([96, 'A'], [192, 'A (end)'], [192, 'A']),
      {
        tracks: 'none',
        map: { sections: 'add' },
      },
    );
    expect(twice.ok ? timingOf(twice.value.song).sections.length : twice.problem.code).toSatisfy(
      (x: unknown) => x === 2 || x === 'settings-invalid',
    );
  });

  it('lands at a timecode of the song: 8 seconds behind 01:00:00:00 are 16 quarters at 120 BPM', () => {
    const song = songOf(
      [metaEvent(0, meta.smpteOffset, Uint8Array.of(0x21, 0, 0, 0, 0))],
      note(0, 96, 50, 80, 4),
    );
    const at = (timecode: string) => take(song, songOf(note(0, 96, 60)), { at: { timecode } });
    const there = at('01:00:08:00');
    // 25 frames a second (hours byte 0x21: bits 01), 16 × 96 ticks (hand-worked).
    expect(there.ok && notesOn(there.value.song, 2)).toEqual([[[1536, 60]]]);
    for (const wrong of ['01:00:08:25', '00:59:00:00', 'x'])
      expect(at(wrong)).toMatchObject({ ok: false, problem: { where: { field: 'settings.at' } } });
  });

  it('says where bars stop agreeing, and by how much the song gets longer', () => {
    const { report } = taken(songOf([], note(0, 96, 50, 80, 5)), exampleSource, { at: { bar: 2 } });
    // Bars of 3/4 into 4/4; four of them are twelve quarters, three bars of 4/4 behind the first.
    expect(report.told).toEqual([
      'From its bar 1 on, bar 2 here, its bars of 3/4 do not agree with those of this song, of 4/4: its meters can be taken, too.',
      'The song gets 3 bars longer, to bar 4.',
    ]);
    const agreed = taken(songOf([], note(0, 96, 50, 80, 5)), exampleSource, {
      at: { bar: 2 },
      map: { meters: 'replace' },
    });
    expect(agreed.report.told).toEqual(['The song gets 4 bars longer, to bar 5.']);
  });

  it('added to a song without tempos, as it sounded: its tempos stand in its bars, and its notes with them', () => {
    const song = songOf(note(0, 96, 50, 80, 5));
    const { song: after } = taken(song, exampleSource, {
      keep: 'seconds',
      at: { bar: 2 },
      map: { tempos: 'add', meters: 'add' },
    });
    // 666,667 µs a quarter from bar 2 of 4/4 at 96 PPQ on; quarters and 7, 14 ticks of 480 are 97.4 and
    // 194.8 of 96 behind it (hand-worked).
    expect(mapLines(after).filter((line) => line.includes('ff51'))).toEqual(['384 ff51 666667']);
    expect(notesOn(after, 1)[0]).toEqual([
      [384, 60],
      [481, 63],
      [579, 67],
    ]);
    const refused = take(
      taken(song, exampleSource, { map: { tempos: 'add' } }).song,
      exampleSource,
      {
        keep: 'seconds',
        map: { tempos: 'add', meters: 'add' },
      },
    );
    expect(refused).toMatchObject({ ok: false, problem: { where: { field: 'settings.map' } } });
  });

  it('says the bar at which a meter of this song, or of the source, parts them, however far on', () => {
    const meterAt = (tick: number, beats: number) =>
      metaEvent(tick, meta.timeSignature, Uint8Array.of(beats, 2, 24, 8));
    const long = (...meters: ReturnType<typeof meterAt>[]) =>
      songOf(meters, [...note(0, 96, 60), metaEvent(96 * 4 * 50_000, meta.endOfTrack)]);
    const say = (here: Song, there: Song) =>
      taken(here, there, { at: { bar: 3 } }).report.told?.[0];
    // Bar 40,001 of 4/4 at 96 ticks a quarter begins at 15,360,000; from bar 3 on, bar 1 there is bar 3
    // here (hand-worked).
    expect(say(long(), long(meterAt(15_360_000, 3)))).toContain(
      'From its bar 40001 on, bar 40003 here',
    );
    expect(say(long(meterAt(15_360_000, 3)), long())).toContain(
      'From its bar 39999 on, bar 40001 here',
    );
    expect(say(long(meterAt(768, 3)), long(meterAt(0, 3)))).toMatch(/^The song gets|^$/);
  });

  it('cannot be counted in a song of frames, and is refused in words', () => {
    const frames = {
      ...songOf(note(0, 96, 60)),
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 } as const,
    };
    const done = take(frames as Song, exampleSource, {
      keep: 'seconds',
      map: { tempos: 'replace' },
    });
    expect(done).toMatchObject({ ok: false, problem: { where: { field: 'settings.map' } } });
  });

  it('meters that come: the music keeps its bars, or its beats, as is said (96 ticks a quarter, by hand)', () => {
    // A note at bar 4: three bars of 384 ticks in 4/4, of 288 in 3/4.
    const song = songOf([metaEvent(1536, meta.endOfTrack)], note(1152, 96, 60));
    const waltz = songOf([
      metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
      metaEvent(576, meta.endOfTrack),
    ]);
    const begins = (settings: object) => {
      const map = { meters: 'replace' };
      const { song: after } = taken(song, waltz, { tracks: 'none', map, ...settings });
      return after.tracks[1]!.events.atTick[0];
    };
    expect(begins({ music: 'keeps its bars' })).toBe(864);
    expect(begins({ music: 'keeps its beats' })).toBe(1152);
    expect(begins({})).toBe(1152);
  });

  it('settings of version 1 say the same', () => {
    const song = songOf(note(0, 96, 50, 80, 3));
    const old = runStep(
      song,
      { ...asked({ bar: 3, tracks: ['t2'] }), version: 1 },
      new Map([[sourceKey(name), exampleSource]]),
    );
    const now = taken(song, exampleSource, {
      at: { bar: 3 },
      tracks: ['t2'],
      music: 'keeps its beats',
    });
    expect(old.ok && [old.value.settings, notesOn(old.value.song)]).toEqual([
      now.settings,
      notesOn(now.song),
    ]);
  });
});
