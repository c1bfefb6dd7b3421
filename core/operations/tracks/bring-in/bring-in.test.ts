import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../../tests/support/scale.ts';
import { exampleSource } from '../../../../tests/support/examples.ts';
import { notesOn, secondsIn } from '../../../../tests/support/by-reader.ts';
import { madeSong } from '../../../../tests/support/made-songs.ts';
import { controller, note, songOf } from '../../../../tests/support/songs.ts';
import { noteFaults, faultCount } from '../../../edit/note-faults.ts';
import { channelEvent, meta, metaEvent } from '../../../smf/events.ts';
import { encodeText } from '../../../smf/text.ts';
import { trackName, type Song } from '../../../song/song.ts';
import { runStep } from '../../run.ts';
import { sourceKey } from '../../sources.ts';

const name = { original: 'a'.repeat(64), part: 1, called: 'x.mid' };
const from = (source: Song) => new Map([[sourceKey(name), source]]);
const asked = (settings: object) => ({
  operation: 'tracks.bring-in',
  settings: { source: name, ...settings },
});

function bring(song: Song, source: Song, settings: object = {}) {
  const done = runStep(song, asked(settings), from(source));
  if (!done.ok) throw new Error(JSON.stringify(done.problem));
  return {
    song: done.value.song,
    report: done.value.report,
    brought: done.value.song.tracks.slice(song.tracks.length),
    described: done.value.described,
  };
}

describe('bringing in tracks', () => {
  it('in musical time: the very ticks worked by hand', () => {
    const { brought } = bring(songOf(note(0, 96, 50, 80, 3)), exampleSource, {
      tracks: ['t2'],
      at: { bar: 3 },
    });
    // Bar 3 of 4/4 at 96 PPQ begins at 768; 487 and 974 ticks of 480 are 97.4 and 194.8 of 96 (hand-worked).
    expect(notesOn({ ...songOf(), tracks: brought })).toEqual([
      [
        [768, 60],
        [865, 63],
        [963, 67],
      ],
    ]);
  });

  const quarters = fc.record({
    song: madeSong,
    source: madeSong,
    ppq: fc.constantFrom(24, 96, 120, 480, 1024, 32767),
    bar: fc.constantFrom(null, 1, 2, 17),
  });

  it.each(['bars', 'seconds'] as const)(
    'over two different maps, %s kept: every note within half a tick of its exact place',
    (keep) => {
      fc.assert(
        fc.property(quarters, ({ song, source: made, ppq, bar }) => {
          const source =
            made.division.kind === 'ppq'
              ? { ...made, division: { kind: 'ppq', ticksPerQuarter: ppq } as const }
              : made;
          const done = runStep(
            song,
            asked({ at: bar === null ? { own: true } : { bar }, keep }),
            from(source),
          );
          if (
            keep === 'bars' &&
            (song.division.kind === 'smpte' || source.division.kind === 'smpte')
          ) {
            expect(done.ok ? 'done' : done.problem.code).toBe('settings-invalid');
            return;
          }
          if (!done.ok) throw new Error(done.problem.code);
          // Where the bar begins is the song's own affair (meter-map.test.ts holds that); the reader finds
          // it by a marker put there.
          const begins = bar === null ? 0 : barOf(song, bar);
          const [then, now] = [secondsIn(source), secondsIn(song)];
          const plays = notesOn(source).filter((notes) => notes.length > 0);
          const there = notesOn(done.value.song, song.tracks.length).filter(
            (notes) => notes.length > 0,
          );
          expect(there.map((notes) => notes.map(([, key]) => key))).toEqual(
            plays.map((notes) => notes.map(([, key]) => key)),
          );
          plays.forEach((notes, t) =>
            notes.forEach(([tick], n) => {
              const [is] = there[t]![n]!;
              if (keep === 'bars')
                expect(Math.abs(is - begins - (tick * 96) / ppq)).toBeLessThanOrEqual(0.5);
              else {
                const exact = now(begins) + then(tick);
                expect(now(is - 0.5) - 1e-9).toBeLessThanOrEqual(exact);
                expect(now(is + 0.5) + 1e-9).toBeGreaterThanOrEqual(exact);
              }
            }),
          );
        }),
        { seed: 71, numRuns: scaleRuns(120) },
      );
    },
  );

  const barOf = (song: Song, bar: number): number => {
    const [marked] = notesOn({
      ...song,
      tracks: bring(song, songOf(note(0, 9, 1)), { at: { bar }, keep: 'seconds' }).brought,
    });
    return marked![0]![0];
  };

  it('as many notes are faulty as were in the source; everything that was in the song is the same object', () => {
    fc.assert(
      fc.property(
        madeSong.filter(({ division }) => division.kind === 'ppq'),
        madeSong,
        (song, source) => {
          const done = runStep(song, asked({}), from({ ...source, division: song.division }));
          if (!done.ok) throw new Error(done.problem.code);
          const faults = ({ tracks }: Song): number =>
            tracks.reduce((sum, t) => sum + faultCount(noteFaults(t.events)), 0);
          expect(faults(done.value.song)).toBe(faults(song) + faults(source));
          expect(
            done.value.song.tracks
              .slice(0, song.tracks.length)
              .every((t, n) => t === song.tracks[n]),
          ).toBe(true);
        },
      ),
      { seed: 72, numRuns: scaleRuns(60) },
    );
  });

  it('keeps the very bytes of a part that has nothing to change', () => {
    const part = songOf([
      metaEvent(0, meta.trackName, encodeText('Solo')),
      ...note(0, 96, 60, 80, 2),
    ]).tracks[0]!;
    const source = { ...songOf(), tracks: [{ ...part, body: Uint8Array.of(1, 2, 3) }] };
    const {
      brought: [track],
    } = bring(songOf(note(0, 96, 50, 80, 3)), source);
    expect(track!.events).toBe(part.events);
    expect(track!.body).toBe(source.tracks[0]!.body);
  });

  it('on a channel that is taken, a part gets a free one with all that goes by it; parts that shared one go on sharing; drums stay', () => {
    const parked = {
      ...songOf(
        [
          controller(0, 7, 90),
          metaEvent(0, meta.channelPrefix, Uint8Array.of(0)),
          ...note(0, 96, 60),
        ],
        note(0, 96, 64),
        note(0, 96, 36, 90, 9),
      ),
    };
    const source = {
      ...parked,
      tracks: parked.tracks.map((t, n) => (n === 0 ? { ...t, parked: ['0:7'] } : t)),
    };
    const { brought, report } = bring(
      songOf(note(0, 96, 50), note(0, 96, 36, 80, 9), note(0, 96, 50, 80, 1)),
      source,
    );
    expect(brought.map((t) => [...t.events.status].find((s) => s < 0xf0)! & 15)).toEqual([2, 2, 9]);
    expect(brought[0]!.parked).toEqual(['2:7']);
    expect(report.changes.map((c) => c.detail)).toEqual([
      expect.stringContaining('channel 1 is 3 here'),
      expect.stringContaining('channel 1 is 3 here'),
      expect.not.stringContaining('channel'),
    ]);
    const full = songOf(...Array.from({ length: 16 }, (_, c) => note(0, 96, 50, 80, c)));
    expect(bring(full, source).report.skipped.map((s) => s.why)).toContainEqual(
      'No channel is free for channel 1: what plays there shares it with tracks of this song.',
    );
  });

  it('names stay names: numbered where they are taken, given where there are none, read the same in another encoding', () => {
    const named = (bytes: Uint8Array) => [metaEvent(0, meta.trackName, bytes), ...note(0, 96, 60)];
    const song = songOf(named(encodeText('Bass')));
    const { brought } = bring(song, {
      ...songOf(named(encodeText('Bass')), note(0, 96, 60), note(0, 96, 62)),
      title: 'Sketch',
    });
    expect(brought.map((t) => trackName(t, song.encoding))).toEqual([
      'Bass 2',
      'Sketch 1',
      'Sketch 2',
    ]);
    // "ドラム" in Shift-JIS (JIS X 0208 rows 5: 83 68 83 89 83 80), brought into a song whose texts are Windows-1251.
    const drums = {
      ...songOf(named(Uint8Array.of(0x83, 0x68, 0x83, 0x89, 0x83, 0x80))),
      encoding: 'Shift-JIS' as const,
    };
    expect(
      trackName(bring({ ...song, encoding: 'Windows-1251' }, drums).brought[0]!, 'Windows-1251'),
    ).toBe('ドラム');
  });

  it('what is the other song’s own stays there, and is told; a file with nothing to play says so', () => {
    const { report, brought } = bring(songOf(note(0, 96, 50, 80, 5)), exampleSource);
    expect(brought.map((t) => trackName(t, 'UTF-8'))).toEqual(['Brass', 'Kit']);
    expect(report.skipped).toEqual([
      { name: 'Map', why: 'It plays nothing.' },
      { why: 'Not taken, since they are the other song’s own: 1 tempo, 1 meter, 1 marker.' },
    ]);
    const nothing = bring(songOf(note(0, 96, 50)), exampleSource, { tracks: ['t1'] });
    expect([nothing.report.changes, nothing.report.skipped.length]).toEqual([[], 2]);
  });

  it('of all tracks, one with neither notes nor words is no track of this song, and is told; one that is named by its id is', () => {
    const odd = songOf([metaEvent(0, 0x60, Uint8Array.of(1))], note(0, 96, 60));
    const song = songOf(note(0, 96, 50, 80, 5));
    const all = bring(song, odd);
    expect([all.brought.length, all.report.skipped[0]!.why]).toEqual([1, 'It plays nothing.']);
    expect(bring(song, odd, { tracks: ['t1', 't2'] }).brought.length).toBe(2);
  });

  it('tells the length of a short note that the new ticks cannot say', () => {
    const { report, brought } = bring(
      { ...songOf(note(0, 4, 50, 80, 5)), division: { kind: 'ppq', ticksPerQuarter: 4 } },
      songOf([channelEvent(0, 0x90, 60, 80), channelEvent(3, 0x80, 60, 64)]),
    );
    expect(report.changes[0]!.detail).toMatch(/1 short note kept one tick long/);
    expect(
      Array.from(brought[0]!.events.atTick.filter((_, i) => brought[0]!.events.status[i]! < 0xf0)),
    ).toEqual([0, 1]);
  });
});

describe('a source', () => {
  it('that is not there is said by its name, and nothing is done', () => {
    const done = runStep(songOf(note(0, 96, 50)), asked({}));
    expect(done.ok ? 'done' : done.problem).toEqual({
      code: 'source-missing',
      where: { field: 'settings' },
      source: '“x.mid”',
      blank: false,
    });
  });

  it('is a blank in a recipe, asked for when it is run', () => {
    const song = songOf(note(0, 96, 50, 80, 5));
    const steps = [
      {
        operation: 'tracks.bring-in',
        settings: { source: { blank: 'The brass' }, tracks: ['t2'] },
      },
      { operation: 'velocity.set', settings: { add: 10 } },
    ];
    const run = (sources: object) =>
      runStep(
        song,
        { operation: 'recipe.run', settings: { name: 'With brass', steps, sources } },
        from(exampleSource),
      );
    const without = run({});
    expect(without.ok ? 'done' : without.problem).toEqual({
      code: 'source-missing',
      where: { field: 'settings.steps.1.settings' },
      source: '“The brass”',
      blank: true,
    });
    const withIt = run({ 'The brass': name });
    // 70, 79 and 88, and ten more (hand-worked).
    expect(
      withIt.ok &&
        Array.from(withIt.value.song.tracks[1]!.events.data2).filter(
          (_, i) => withIt.value.song.tracks[1]!.events.status[i]! >> 4 === 9,
        ),
    ).toEqual([80, 89, 98]);
  });
});
