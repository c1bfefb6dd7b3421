import { describe, expect, it } from 'vitest';
import { independentMap } from '../../tests/support/independent-map.ts';
import { note, refusal, songOf, take } from '../../tests/support/songs.ts';
import { shreddedRamp } from '../../demo/arrivals.ts';
import { plainEvents, readIndependently } from '../../tests/support/independent.ts';
import { makeHandoff } from '../handoff/handoff.ts';
import { readSmf } from '../smf/read.ts';
import { channelEvent, endTick, meta, metaEvent } from '../smf/events.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { gradualRuns } from '../timing/gradual-runs.ts';
import { secondsInto } from '../timing/gradual.ts';
import { meterMap, positionAt, positionText } from '../timing/meter-map.ts';
import { effective, tempoMap, ticksToSeconds } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';

const all = (song: Song, ...steps: [string, object][]): Song =>
  steps.reduce((s, [operation, settings]) => take(s, operation, settings).song, song);
const lines = (song: Song, track = 0): string[] => plainEvents(song.tracks[track]!.events);

describe('a map without any notes', () => {
  // 96 PPQ: bars of 4/4 are 384 ticks, of 9/8 432, of 7/8 336, of 3/4 288.
  const song = all(
    songOf([metaEvent(0, meta.trackName, Uint8Array.of(77))]),
    ['timing.tempo', { bpm: 96 }],
    ['timing.meter', { numerator: 4, denominator: '4' }],
    ['timing.length', { bars: 40 }],
    ['timing.tempo', { bar: 5, bpm: 132 }],
    ['timing.meter', { bar: 9, numerator: 9, denominator: '8' }],
    ['timing.tempo', { bar: 9, bpm: 84, of: 'dotted quarter' }],
    ['timing.meter', { bar: 12, numerator: 7, denominator: '8' }],
    ['timing.tempo', { bar: 12, beat: 2, bpm: 66 }],
    ['timing.meter', { bar: 15, numerator: 3, denominator: '4' }],
    ['timing.marker', { bar: 3, text: 'Verse' }],
    ['timing.marker', { bar: 10, text: 'Bridge' }],
    ['timing.length', { bars: 18 }],
  );

  it('comes out whole, as an independent reader sees it (ticks worked by hand)', () => {
    const bar9 = 8 * 384;
    const bar12 = bar9 + 3 * 432;
    const bar15 = bar12 + 3 * 336;
    const map = independentMap(writeSmf({ ...song, format: 1 }));
    expect(map.meters).toEqual([
      [0, 4, 4],
      [bar9, 9, 8],
      [bar12, 7, 8],
      [bar15, 3, 4],
    ]);
    // 84 dotted quarters are 126 quarters a minute.
    expect(map.tempos).toEqual([
      [0, 625_000],
      [4 * 384, 454_545],
      [bar9, 476_190],
      [bar12 + 48, 909_091],
    ]);
    expect(map.markers).toEqual([
      [2 * 384, 'Verse'],
      [bar9 + 432, 'Bridge'],
    ]);
    expect(map.end).toBe(bar15 + 4 * 288);
  });

  it('takes points out again and says where there are none', () => {
    const less = all(
      song,
      ['timing.tempo', { bar: 5, bpm: null }],
      ['timing.meter', { bar: 15, remove: true }],
      ['timing.marker', { bar: 3, text: '' }],
    );
    expect([
      timingOf(less).tempos.length,
      timingOf(less).meters.length,
      timingOf(less).markers.length,
    ]).toEqual([3, 3, 1]);
    expect(take(less, 'timing.tempo', { bar: 5, bpm: null }).report.skipped[0]!.why).toBe(
      'There is no tempo at that place.',
    );
    expect(take(song, 'timing.tempo', { bpm: 96 }).report.changes).toEqual([]);
  });
});

it('a meter inside a bar cuts it short, and the step says so', () => {
  const song = songOf([metaEvent(384 * 8, meta.endOfTrack)]);
  const { song: cut, report } = take(song, 'timing.meter', { bar: 3, beat: 3, numerator: 3 });
  expect(report.changes[0]!.detail).toBe('bar 3 is cut short: 2 of its 4 beats are left');
  // Bar 4 begins at the new meter: two bars and two beats of 96 ticks.
  expect(
    positionText(positionAt(meterMap(timingOf(cut).meters, cut.division), 2 * 384 + 192)),
  ).toBe('4.1.0');
  expect(
    take(song, 'timing.meter', { bar: 3, numerator: 3 }).report.changes[0]!.detail,
  ).toBeUndefined();
});

describe('when the tempo changes', () => {
  const song = songOf(
    [metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))],
    [...note(0, 96, 60), ...note(192, 96, 62), channelEvent(288, 0xb0, 7, 9)],
  );

  it('the music keeps its bars, or its seconds (worked by hand: at twice the tempo twice the ticks)', () => {
    expect(lines(take(song, 'timing.tempo', { bpm: 240 }).song, 1)).toEqual(lines(song, 1));
    const { song: kept, report } = take(song, 'timing.tempo', {
      bpm: 240,
      music: 'keeps its seconds',
    });
    expect(lines(kept, 1)).toEqual([
      '0 903c50',
      '192 803c40',
      '384 903e50',
      ...['803e40', 'b00709'].map((e) => `576 ${e}`),
      '576 ff2f',
    ]);
    expect(report.changes[0]!.detail).toMatch(/events moved to stay where they sound/);
    const before = tempoMap(timingOf(song).tempos, song.division);
    const after = tempoMap(timingOf(kept).tempos, kept.division);
    song.tracks[1]!.events.atTick.forEach((tick, i) =>
      expect(ticksToSeconds(after, kept.tracks[1]!.events.atTick[i]!)).toBeCloseTo(
        ticksToSeconds(before, tick),
        9,
      ),
    );
  });
});

describe('gradual changes', () => {
  const song = take(
    songOf([
      metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
      metaEvent(384 * 20, meta.endOfTrack),
    ]),
    'timing.tempo',
    { bpm: 72 },
  ).song;

  it('from 72 to 138 over twelve bars are at most 48 steps within a millisecond', () => {
    const { song: after, report } = take(song, 'timing.ramp', {
      bar: 2,
      toBar: 14,
      from: 72,
      to: 138,
    });
    const { tempos } = timingOf(after);
    expect(tempos.length).toBeLessThanOrEqual(50);
    expect(tempos.at(-1)).toEqual({ atTick: 13 * 384, tempo: 434_783 });
    expect(Number(/at most ([\d.]+) ms/.exec(report.changes[0]!.detail!)![1])).toBeLessThanOrEqual(
      1,
    );
  });

  it('are thinned to what a receiver takes, held against the change itself, and the error is told', () => {
    const drawn = take(song, 'timing.ramp', {
      bar: 2,
      toBar: 14,
      from: 72,
      to: 138,
      error: 0.2,
    }).song;
    const { song: few, report } = take(drawn, 'timing.thin-tempo', { error: 1, most: 12 });
    const points = timingOf(few).tempos.filter((p) => p.atTick >= 384 && p.atTick < 13 * 384);
    expect(points.length).toBeLessThanOrEqual(12);
    const told = Number(/nowhere more than ([\d.]+) ms off/.exec(report.changes[0]!.detail!)![1]);
    const map = tempoMap(timingOf(few).tempos, few.division);
    for (let beat = 0; beat <= 48; beat++) {
      const meant = secondsInto({ quarters: 48, from: 72, to: 138, shape: 'over beats' }, beat);
      expect(
        Math.abs(ticksToSeconds(map, 384 + beat * 96) - ticksToSeconds(map, 384) - meant) * 1000,
      ).toBeLessThanOrEqual(told + 0.3);
    }
    expect(take(drawn, 'timing.thin-tempo', { error: 0.2 }).report.changes).toEqual([]);
  });

  it('that arrive shredded become few steps, every place within the error', () => {
    const ramp = songsFromSmf(shreddedRamp(), 'x.mid')[0]!;
    const { song: after, report } = take(ramp, 'timing.thin-tempo', { error: 1 });
    const [old, now] = [ramp, after].map((s) => tempoMap(timingOf(s).tempos, s.division));
    let worst = 0;
    for (let tick = 0; tick <= endTick(ramp.tracks[1]!.events); tick += 60)
      worst = Math.max(worst, Math.abs(ticksToSeconds(old!, tick) - ticksToSeconds(now!, tick)));
    expect(worst).toBeLessThanOrEqual(0.00101);
    expect(timingOf(after).tempos.length).toBeLessThan(40);
    expect(report.changes[0]!.detail).toMatch(
      /56\d tempo events became \d+: one gradual change from 10[34](\.\d+)? to 15[12](\.\d+)? BPM, which they followed within 0\.\d+ ms/,
    );
    expect(gradualRuns(effective(timingOf(after).tempos), 480)).toHaveLength(1);
    expect(take(after, 'timing.thin-tempo', { error: 1 }).report.changes).toEqual([]);
  });
});

describe('the map by hand', () => {
  const song = take(
    songOf(
      [
        metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
        metaEvent(384 * 20, meta.endOfTrack),
      ],
      note(384, 96, 60),
    ),
    'timing.ramp',
    { bar: 3, toBar: 7, from: 120, to: 80 },
  ).song;
  const runs = (s: Song) =>
    gradualRuns(effective(timingOf(s).tempos), 96).map(({ fromTick, toTick, from, to }) => ({
      fromTick,
      toTick,
      from,
      to,
    }));

  it('a gradual change is taken by one end and drawn further', () => {
    const [change] = runs(song);
    expect(change).toEqual({ fromTick: 768, toTick: 6 * 384, from: 120, to: 80 });
    const { song: after } = take(song, 'timing.tempos', {
      clear: [{ from: 768, to: 6 * 384 }],
      changes: [{ fromTick: 768, toTick: 8 * 384, from: 120, to: 60 }],
    });
    expect(runs(after)).toEqual([{ fromTick: 768, toTick: 8 * 384, from: 120, to: 60 }]);
    expect(timingOf(after).tempos.at(-1)).toEqual({ atTick: 8 * 384, tempo: 1_000_000 });
  });

  it('a point moves, and the music keeps its seconds where that is asked', () => {
    const { song: after } = take(
      songOf(
        [
          metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
          metaEvent(384 * 20, meta.endOfTrack),
        ],
        note(384, 96, 60),
      ),
      'timing.tempos',
      {
        clear: [{ from: 0, to: 0 }],
        points: [{ atTick: 0, tempo: 1_000_000 }],
        music: 'keeps its seconds',
      },
    );
    // Half the tempo: half the ticks.
    expect(lines(after, 1)).toEqual(['192 903c50', '240 803c40', '240 ff2f']);
    expect(
      refusal(song, 'timing.tempos', {
        changes: [{ fromTick: 96, toTick: 96, from: 100, to: 90 }],
      }),
    ).toBe('settings-invalid');
  });
});

describe('bars that last so long', () => {
  const song = songOf([
    metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
    metaEvent(768, meta.tempo, Uint8Array.of(0x0f, 0x42, 0x40)),
    metaEvent(384 * 20, meta.endOfTrack),
  ]);
  const lasts = (s: Song, from: number, to: number): number =>
    ((map) => ticksToSeconds(map, to) - ticksToSeconds(map, from))(
      tempoMap(timingOf(s).tempos, s.division),
    );

  it('with one tempo (by hand: 4 bars of 4/4 in 10 s are 16 quarters in 10 s, 96 BPM)', () => {
    const { song: after, report } = take(song, 'timing.fit', { bar: 1, lastBar: 4, length: 10 });
    expect(timingOf(after).tempos).toEqual([
      { atTick: 0, tempo: 625_000 },
      { atTick: 4 * 384, tempo: 1_000_000 },
    ]);
    expect(report.changes[0]!.detail).toBe('96 BPM; exact');
    expect(lasts(after, 4 * 384, 8 * 384)).toBeCloseTo(lasts(song, 4 * 384, 8 * 384), 9);
  });

  it('in proportion, in frames (by hand: 4 s and 8 s become 2 s and 4 s in 150 frames of 25 a second)', () => {
    const { song: after } = take(song, 'timing.fit', {
      bar: 1,
      lastBar: 4,
      length: 150,
      unit: 'frames at 25',
      way: 'all of them faster or slower',
    });
    expect([lasts(after, 0, 768), lasts(after, 768, 1536)]).toEqual([2, 4]);
    expect(refusal(song, 'timing.fit', { bar: 1, lastBar: 1, length: 1000 })).toBe(
      'settings-invalid',
    );
    expect(refusal(song, 'timing.fit', { bar: 3, lastBar: 2 })).toBe('settings-invalid');
  });

  it('is off by no more than its whole microseconds allow, and says so', () => {
    const { song: after, report } = take(song, 'timing.fit', {
      bar: 1,
      lastBar: 3,
      length: 7.77777,
    });
    // Twelve quarters, half a microsecond each at most.
    expect(Math.abs(lasts(after, 0, 3 * 384) - 7.77777)).toBeLessThanOrEqual(6e-6);
    expect(report.changes[0]!.detail).toMatch(/ms off/);
  });
});

describe('the resolution', () => {
  it('changes with no place off by more than half a new tick, and says by how much (facts: 24 PPQ at 120 BPM is 10.4 ms at most)', () => {
    const song = songOf([...note(0, 97, 60), ...note(101, 50, 62)]);
    expect(take(song, 'timing.resolution', { ppq: 960 }).report.changes[0]!.detail).toBe(
      'every place exact',
    );
    const { song: coarse, report } = take(song, 'timing.resolution', { ppq: 24 });
    coarse.tracks[0]!.events.atTick.forEach((tick, i) =>
      expect(Math.abs(tick - song.tracks[0]!.events.atTick[i]! / 4)).toBeLessThanOrEqual(0.5),
    );
    expect(Number(/at most ([\d.]+) ms/.exec(report.changes[0]!.detail!)![1])).toBeLessThanOrEqual(
      10.417,
    );
    expect(
      lines(
        take(take(song, 'timing.resolution', { ppq: 960 }).song, 'timing.resolution', { ppq: 96 })
          .song,
      ),
    ).toEqual(lines(song));
  });
});

describe('the lead-in', () => {
  const song = songOf(
    [
      metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
      metaEvent(384, meta.marker, Uint8Array.of(65)),
    ],
    [channelEvent(0, 0xc0, 5), ...note(384, 96, 60)],
  );

  it('is added before the music, which keeps its setup at the beginning, and dropped again', () => {
    const longer = take(song, 'timing.lead-in', { bars: 2 }).song;
    expect(lines(longer, 1)).toEqual(['0 c005', '1152 903c50', '1248 803c40', '1248 ff2f']);
    expect(timingOf(longer).markers[0]!.atTick).toBe(1152);
    expect(lines(take(longer, 'timing.lead-in', { bars: -2 }).song, 1)).toEqual(lines(song, 1));
  });

  it('is never dropped where a note sounds', () => {
    expect(refusal(song, 'timing.lead-in', { bars: -2 })).toBe('settings-invalid');
  });
});

it('the click has the beats of the meters (a bar of 3/4 and one of 7/8, worked by hand)', () => {
  const song = songOf([
    metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
    metaEvent(288, meta.timeSignature, Uint8Array.of(7, 3, 12, 8)),
    metaEvent(288 + 336, meta.endOfTrack),
  ]);
  const { song: after } = take(song, 'timing.click');
  expect(
    lines(after, 1)
      .filter((e) => e.includes(' 99'))
      .map((e) => e.split(' ').map((x, i) => (i === 0 ? Number(x) : x.slice(2, 4)))),
  ).toEqual(
    [0, 96, 192, 288, 336, 384, 432, 480, 528, 576].map((t, i) => [
      t,
      i === 0 || i === 3 ? '4c' : '4d',
    ]),
  );
});

it('the start timecode is said as SMF 1.0 has it, and addresses that drop-frame leaves out are refused', () => {
  const song = songOf(note(0, 96, 60));
  const at = (settings: object): string =>
    lines(take(song, 'timing.timecode', settings).song).find((e) => e.includes('ff54'))!;
  expect(at({ address: '01:00:00:00' })).toBe('0 ff54 25 1 0 0 0 0');
  expect(
    timingOf(take(song, 'timing.timecode', { address: '10:01:00;02', rate: '29.97 drop' }).song)
      .smpteOffset,
  ).toEqual({ framesPerSecond: 29, hours: 10, minutes: 1, seconds: 0, frames: 2, hundredths: 0 });
  expect(refusal(song, 'timing.timecode', { address: '10:01:00;01', rate: '29.97 drop' })).toBe(
    'settings-invalid',
  );
});

describe('a start timecode', () => {
  const song = songOf(
    [metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))],
    note(384 * 6, 96, 60),
  );
  const sent = (s: Song) => {
    const made = makeHandoff(
      s,
      { received: s, asRead: s },
      { format: 1, runningStatus: true, chunks: true },
    );
    if (!made.ok) throw new Error(made.problem.code);
    expect(made.value.proof.holds).toBe(true);
    return {
      ...made.value,
      offset: readIndependently(made.value.bytes)
        .tracks.flat()
        .find((e) => e.includes('ff54')),
    };
  };

  it('at another bar is counted back to bar 1 for the file, over the tempos as they then are (120 BPM: four bars are 8 s)', () => {
    const stated = take(song, 'timing.timecode', { address: '01:00:00:00', bar: 5 }).song;
    expect(sent(stated).offset).toBe('0 ff54 25 0 59 52 0 0');
    // At half the tempo, 16 s.
    const slower = take(stated, 'timing.tempo', { bpm: 60 }).song;
    expect(sent(slower).offset).toBe('0 ff54 25 0 59 44 0 0');
    expect(timingOf(slower).timecode).toEqual({ atTick: 4 * 384, rate: '25', frames: 90_000 });
  });

  it('at a rate the SMPTE offset cannot say is kept all the same, comes back, and the slip tells it', () => {
    const stated = take(song, 'timing.timecode', { address: '00:59:50:00', rate: '23.976' }).song;
    const { offset, notes, bytes } = sent(stated);
    expect(offset).toBeUndefined();
    expect(notes.join()).toMatch(
      /00:59:50:00 at 23.976 frames a second is in the file for this program alone/,
    );
    const reading = readSmf(bytes);
    expect(reading.ok && timingOf(songsFromSmf(reading.value.smf, 'x')[0]!).timecode).toEqual({
      atTick: 0,
      rate: '23.976',
      frames: (59 * 60 + 50) * 24,
    });
    expect(
      timingOf(take(stated, 'timing.timecode', { address: '' }).song).timecode,
    ).toBeUndefined();
  });

  it('gives way to the one that is set after it', () => {
    const twice = take(
      take(song, 'timing.timecode', { address: '02:00:00:00', bar: 2 }).song,
      'timing.timecode',
      { address: '01:00:00:00' },
    ).song;
    expect(timingOf(twice).timecode).toEqual({ atTick: 0, rate: '25', frames: 90_000 });
  });
});

describe('files in parts of frames', () => {
  const frames: Song = {
    ...songOf([
      metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
      ...note(1000, 500, 60),
      ...note(2503, 7, 62),
    ]),
    division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
  };

  it('get a tempo and stay where they sound (by hand: 1,000 ticks a second at 120 BPM are 500 a quarter)', () => {
    const { song, report } = take(frames, 'timing.to-quarters');
    expect(song.division).toEqual({ kind: 'ppq', ticksPerQuarter: 500 });
    expect(lines(song).filter((e) => !e.includes('ff'))).toEqual([
      '1000 903c50',
      '1500 803c40',
      '2503 903e50',
      '2510 803e40',
    ]);
    expect(timingOf(song).tempos).toEqual([{ atTick: 0, tempo: 500_000 }]);
    expect(report.changes[0]!.detail).toBe(
      '500 ticks a quarter note, every place exact; 1 tempo events that had no effect were left out',
    );
  });

  it('say the error where it cannot be exact', () => {
    const { song, report } = take(frames, 'timing.to-quarters', { bpm: 90, ppq: 480 });
    const [old, now] = [frames, song].map((s) => tempoMap(timingOf(s).tempos, s.division));
    const before = [1000, 1500, 2503, 2510].map((tick) => ticksToSeconds(old!, tick));
    const after = lines(song)
      .filter((e) => !e.includes('ff'))
      .map((e) => ticksToSeconds(now!, Number(e.split(' ')[0])));
    // Half a tick at 480 PPQ and 90 BPM is 0.694 ms.
    after.forEach((s, i) => expect(Math.abs(s - before[i]!)).toBeLessThanOrEqual(0.000695));
    expect(report.changes[0]!.detail).toMatch(/at most 0\.\d{3} ms off/);
    expect(take(song, 'timing.to-quarters').report.changes).toEqual([]);
  });
});

it('markers are brought onto their frames with a finer resolution (25 frames a second, 120 BPM)', () => {
  // Frame 7 is 0.28 s: 53.76 ticks of 96, 537.6 of 960.
  const song = take(
    songOf(
      [metaEvent(54, meta.marker, Uint8Array.of(65)), metaEvent(384, meta.endOfTrack)],
      note(54, 10, 60),
    ),
    'timing.timecode',
    {},
  ).song;
  const { song: fine } = take(song, 'timing.resolution', { ppq: 960, onFrames: true });
  expect(timingOf(fine).markers[0]!.atTick).toBe(538);
  expect(lines(fine, 1)[0]).toBe('540 903c50');
  expect(refusal(songOf(note(0, 9, 60)), 'timing.resolution', { onFrames: true })).toBe(
    'settings-invalid',
  );
});
