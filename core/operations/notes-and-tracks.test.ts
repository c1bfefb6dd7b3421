import fc from 'fast-check';
import { Interval, Note, Scale } from 'tonal';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { trackEvents } from '../../tests/support/generate.ts';
import { controller, note, refusal, songOf, take } from '../../tests/support/songs.ts';
import {
  META,
  channelEvent,
  meta,
  metaEvent,
  type EventValue,
  type Events,
} from '../smf/events.ts';
import { encodeText } from '../smf/text.ts';
import { notesOf } from '../song/notes.ts';
import { trackName, type Song } from '../song/song.ts';
import { byKeySteps, keyOfSignature, modes, tonics, type Mode } from '../harmony/key-steps.ts';
import { noteRows } from '../edit/velocities.ts';

const keysOf = (events: Events): number[] => noteRows(events).map((i) => events.data1[i]!);
const startsOf = (events: Events): number[] => noteRows(events).map((i) => events.atTick[i]!);
const names = (song: Song): string[] => song.tracks.map((t) => trackName(t, 'UTF-8'));
const first = (song: Song): Events => song.tracks[0]!.events;

describe('transposing by steps of a key, against npm tonal', () => {
  // tonal calls natural minor "minor" as we do.
  it.each(Object.keys(modes) as Mode[])(
    'goes through the %s scale as tonal does, from every tonic',
    (mode) => {
      tonics.forEach((tonic, pitchClass) => {
        const theirs = Scale.steps(`${tonic}4 ${mode}`);
        const base = Note.midi(`${tonic}4`)!;
        for (let degree = -7; degree <= 7; degree++) {
          for (const steps of [-9, -2, 1, 2, 7])
            expect(
              byKeySteps(Note.midi(theirs(degree))!, steps, { tonic: pitchClass, mode }),
              `${tonic} ${mode} ${degree} ${steps}`,
            ).toBe(Note.midi(theirs(degree + steps)));
        }
        expect(base % 12).toBe(pitchClass);
      });
    },
  );

  it('reads key signatures as the circle of fifths has them', () => {
    for (let sharps = -7; sharps <= 7; sharps++) {
      const tonic = Note.chroma(Note.transposeFifths('C', sharps));
      expect(keyOfSignature({ sharps, minor: false })).toEqual({ tonic, mode: 'major' });
      expect(keyOfSignature({ sharps, minor: true }).tonic).toBe(
        Note.chroma(Note.transpose(Note.transposeFifths('C', sharps), '-3m')),
      );
    }
  });

  it('moves by semitones as intervals do', () => {
    for (const name of ['2m', '3M', '5P', '8P', '-4P', '9M', '-12P']) {
      const song = take(songOf(note(0, 10, 60)), 'notes.transpose', {
        semitones: Interval.semitones(name),
      }).song;
      expect(keysOf(first(song))[0]).toBe(Note.midi(Note.transpose('C4', name)));
    }
  });

  it('takes the key in force at each note, and notes between two steps keep their distance', () => {
    const song = songOf([
      metaEvent(0, meta.keySignature, Uint8Array.of(0, 0)),
      metaEvent(384, meta.keySignature, Uint8Array.of(4, 0)),
      ...note(0, 10, 64),
      ...note(100, 10, 61),
      ...note(384, 10, 64),
    ]);
    // E in C major goes a step up to F; C sharp lies a semitone above C and goes to D sharp; E in E major
    // goes to F sharp.
    expect(keysOf(first(take(song, 'notes.transpose', { steps: 1 }).song))).toEqual([65, 63, 66]);
  });

  it('leaves notes that would leave the keyboard, and says how many', () => {
    const { song, report } = take(
      songOf([...note(0, 10, 120), ...note(0, 10, 60)]),
      'notes.transpose',
      { semitones: 10, outside: 'report' },
    );
    expect(keysOf(first(song))).toEqual([120, 70]);
    expect(report.changes[0]).toMatchObject({
      counts: { note: 1 },
      detail: '1 note out of range, left as they were',
    });
  });
});

describe('velocity', () => {
  const velocities = (events: Events): number[] => noteRows(events).map((i) => events.data2[i]!);
  const song = songOf([
    ...note(0, 10, 60, 60),
    ...note(192, 10, 60, 80),
    ...note(384, 384, 60, 100),
  ]);

  it('ramps over the scope, differences kept or not (worked by hand: the song ends at tick 768)', () => {
    expect(
      velocities(first(take(song, 'velocity.ramp', { from: 40, to: 120, keep: 0 }).song)),
    ).toEqual([40, 60, 80]);
    expect(
      velocities(first(take(song, 'velocity.ramp', { from: 40, to: 120, keep: 100 }).song)),
    ).toEqual([20, 60, 100]);
    expect(
      velocities(
        first(
          take(song, 'velocity.ramp', { from: 10, to: 50, keep: 0 }, { bars: { from: 1, to: 1 } })
            .song,
        ),
      ),
    ).toEqual([10, 30, 100]);
  });

  it('compresses about a centre and keeps the order', () => {
    expect(velocities(first(take(song, 'velocity.compress', {}).song))).toEqual([70, 80, 90]);
    expect(
      velocities(
        first(take(song, 'velocity.compress', { centre: 60, amount: 200, highest: 120 }).song),
      ),
    ).toEqual([60, 100, 120]);
    fc.assert(
      fc.property(trackEvents, fc.integer({ min: 0, max: 400 }), (events, amount) => {
        const after = first(take(songOf(events), 'velocity.compress', { amount }).song);
        const rows = noteRows(events);
        for (const a of rows)
          for (const b of rows.slice(0, 20))
            if (events.data2[a]! < events.data2[b]!)
              expect(after.data2[a]!).toBeLessThanOrEqual(after.data2[b]!);
      }),
      { seed: 45, numRuns: scaleRuns(60) },
    );
  });
});

describe('notes', () => {
  it('go by pitch or velocity, within or outside', () => {
    const song = songOf([
      ...note(0, 10, 12, 90),
      ...note(20, 10, 60, 5),
      ...note(40, 10, 64, 90),
      controller(50, 7, 1),
    ]);
    expect(keysOf(first(take(song, 'notes.remove', { highestKey: 23 }).song))).toEqual([60, 64]);
    expect(keysOf(first(take(song, 'notes.remove', { highestVelocity: 9 }).song))).toEqual([
      12, 64,
    ]);
    expect(
      keysOf(
        first(
          take(song, 'notes.remove', { lowestKey: 60, lowestVelocity: 10, which: 'outside' }).song,
        ),
      ),
    ).toEqual([64]);
    expect(refusal(song, 'notes.remove', { lowestKey: 9, highestKey: 3 })).toBe('settings-invalid');
  });

  it('thin to a pulse: the nearest stays, chords whole', () => {
    const song = songOf([
      ...note(4, 10, 60),
      ...note(4, 10, 64),
      ...note(30, 10, 62),
      ...note(90, 5, 65),
      ...note(99, 10, 67),
      ...note(192, 10, 69),
    ]);
    // Quarters at 0, 96, 192: 4 is nearest to 0, 99 (3 away) nearer to 96 than 90 (6 away).
    expect(keysOf(first(take(song, 'notes.pulse').song))).toEqual([60, 64, 67, 69]);
  });

  it('scale in time from where the scope begins; the tempo map stays', () => {
    const events = [
      metaEvent(480, meta.tempo, Uint8Array.of(7, 0xa1, 0x20)),
      controller(480, 7, 9),
      ...note(384, 96, 60),
      ...note(480, 48, 62),
      ...note(768, 10, 64),
    ];
    const { song } = take(
      songOf(events),
      'notes.scale-time',
      { multiply: 1, divide: 2 },
      { bars: { from: 2, to: 2 } },
    );
    expect(plainEvents(first(song))).toEqual([
      '384 903c50',
      '432 803c40',
      '432 b00709',
      '432 903e50',
      '456 803e40',
      '480 ff51 500000',
      '768 904050',
      '778 804040',
      '778 ff2f',
    ]);
  });
});

describe('splitting', () => {
  const chord = [
    metaEvent(0, meta.trackName, encodeText('Piano')),
    channelEvent(0, 0xc0, 4),
    ...note(0, 96, 48),
    ...note(0, 96, 55),
    ...note(0, 96, 64),
    ...note(96, 96, 67),
    controller(100, 64, 127),
  ];

  it('by pitch gives two tracks that sound the same together', () => {
    const { song } = take(songOf(chord), 'tracks.split-by-pitch', { key: 60 });
    expect(names(song)).toEqual(['Piano upper', 'Piano lower']);
    expect(song.tracks.map((t) => keysOf(t.events))).toEqual([
      [64, 67],
      [48, 55],
    ]);
    expect(plainEvents(song.tracks[1]!.events)).toEqual([
      '0 ff03 5069616e6f206c6f776572',
      '0 c004',
      '0 903050',
      '0 903750',
      '96 803040',
      '96 803740',
      '100 b0407f',
      '192 ff2f',
    ]);
    const without = take(songOf(chord), 'tracks.split-by-pitch', { key: 60, along: false }).song;
    expect(plainEvents(without.tracks[1]!.events).filter((e) => / (b0|c0)/.test(e))).toEqual([]);
  });

  it('by voice gives top, middle and bottom; a line by itself is top', () => {
    const { song } = take(songOf(chord), 'tracks.split-by-voice');
    expect(song.tracks.map((t) => keysOf(t.events))).toEqual([[64, 67], [55], [48]]);
    expect(
      take(songOf([...note(0, 10, 60), ...note(20, 10, 62)]), 'tracks.split-by-voice').report
        .skipped[0]!.why,
    ).toBe('All its notes belong together.');
  });

  it('by drum key names the drums, and leaves other channels alone', () => {
    const drums = [
      ...note(0, 10, 36, 80, 9),
      ...note(0, 10, 38, 80, 9),
      ...note(20, 10, 36, 80, 9),
    ];
    const { song } = take(
      songOf([metaEvent(0, meta.trackName, encodeText('Kit')), ...drums]),
      'tracks.split-by-drum',
    );
    expect(names(song)).toEqual(['Kit Bass Drum 1', 'Kit Acoustic Snare']);
    expect(take(songOf(chord), 'tracks.split-by-drum').report.changes).toEqual([]);
  });

  it('keeps every note and its length, however it is split', () => {
    const notes = (song: Song): string[] =>
      song.tracks
        .flatMap(({ events }) =>
          ((n) =>
            Array.from(
              { length: n.count },
              (_, i) =>
                `${events.atTick[n.on[i]!]} ${events.data1[n.on[i]!]} ${n.off[i] === -1 ? 'hangs' : events.atTick[n.off[i]!]}`,
            ))(notesOf(events)),
        )
        .sort();
    fc.assert(
      fc.property(
        trackEvents,
        fc.constantFrom('tracks.split-by-pitch', 'tracks.split-by-voice', 'tracks.split-by-drum'),
        (events, operation) => {
          const before = songOf(events);
          expect(notes(take(before, operation).song)).toEqual(notes(before));
        },
      ),
      { seed: 46, numRuns: scaleRuns(200) },
    );
  });
});

describe('tracks', () => {
  const named = (text: string, ...events: EventValue[]): EventValue[] => [
    metaEvent(0, meta.trackName, encodeText(text)),
    ...events,
  ];

  it('merge into the first of them, each event on its channel', () => {
    const song = songOf(
      named('Map', metaEvent(0, meta.tempo, Uint8Array.of(7, 0xa1, 0x20))),
      named('A', ...note(0, 10, 60)),
      named('B', ...note(5, 10, 62, 80, 1), metaEvent(7, meta.tempo, Uint8Array.of(6, 0xa1, 0x20))),
    );
    const { song: after, report } = take(song, 'tracks.merge', {}, { tracks: ['t2', 't3'] });
    expect(names(after)).toEqual(['Map', 'A']);
    expect(plainEvents(after.tracks[1]!.events)).toEqual([
      '0 ff03 41',
      '0 903c50',
      '5 913e50',
      '7 ff51 434464',
      '10 803c40',
      '15 813e40',
      '15 ff2f',
    ]);
    expect(report.changes.map((c) => [c.name, c.did])).toEqual([
      ['A', 'changed'],
      ['B', 'removed'],
    ]);
    expect(take(song, 'tracks.merge', {}, { tracks: ['t2'] }).report.skipped[0]!.why).toBe(
      'Merging takes two tracks or more.',
    );
  });

  it('that are empty go; the first stays', () => {
    const song = songOf(
      named('Map'),
      named('A', ...note(0, 10, 60)),
      named('Nothing'),
      named('Words', metaEvent(0, meta.lyric, encodeText('la'))),
    );
    expect(names(take(song, 'tracks.remove-empty').song)).toEqual(['Map', 'A', 'Words']);
  });

  it('that share a name are numbered, past names that are taken', () => {
    expect(
      names(
        take(
          songOf(named('Horn'), named('Horn'), named('Horn 2'), named('Horn'), named('')),
          'tracks.unique',
        ).song,
      ),
    ).toEqual(['Horn', 'Horn 3', 'Horn 2', 'Horn 4', '']);
  });
});

describe('by hand', () => {
  const song = songOf([
    ...note(0, 96, 60),
    ...note(96, 96, 60),
    controller(100, 7, 90),
    metaEvent(50, meta.text, encodeText('hi')),
  ]);
  const rowsOf = (s: Song): string[] => plainEvents(first(s));

  it('notes move, stretch, get louder and change key, ends with them', () => {
    expect(
      rowsOf(
        take(song, 'notes.shift', {
          rows: { t1: [[0, 0]] },
          ticks: 12,
          keys: 2,
          lengthen: -48,
          louder: 100,
        }).song,
      ),
    ).toEqual([
      '12 903e7f',
      '50 ff01 6869',
      '60 803e40',
      '96 903c50',
      '100 b0075a',
      '192 803c40',
      '192 ff2f',
    ]);
    // Pushed before the beginning it begins there and keeps its length.
    expect(
      rowsOf(take(song, 'notes.shift', { rows: { t1: [[0, 0]] }, ticks: -50, keys: 1 }).song).slice(
        0,
        1,
      ),
    ).toEqual(['0 903d50']);
    expect(
      take(song, 'notes.shift', { rows: { t1: [[0, 0]] }, keys: 90 }).report.skipped[0]!.why,
    ).toBe('The notes would leave the keyboard.');
  });

  it('no note is left without a length, or with a tick: it stays as it is, and that is said', () => {
    // A sixteenth of 24 ticks and a quarter of 96: both shorter by 23, then by 22.
    const short = songOf([...note(0, 24, 60), ...note(96, 96, 62)]);
    const shorter = (lengthen: number) =>
      take(short, 'notes.shift', { rows: { t1: [[0, 3]] }, lengthen });
    expect(rowsOf(shorter(-23).song)).toEqual([
      '0 903c50',
      '24 803c40',
      '96 903e50',
      '169 803e40',
      '192 ff2f',
    ]);
    expect(shorter(-23).report).toMatchObject({
      changes: [{ counts: { note: 1 } }],
      told: ['1 note stayed unchanged, to keep every note longer than a tick.'],
    });
    expect(rowsOf(shorter(-22).song).slice(0, 2)).toEqual(['0 903c50', '2 803c40']);
    expect(shorter(-200).report.skipped[0]!.why).toBe('Every note must stay longer than a tick.');
    // A note of a tick is no shorter for being moved.
    const tick = songOf([...note(0, 1, 60), metaEvent(96, meta.endOfTrack)]);
    expect(rowsOf(take(tick, 'notes.shift', { rows: { t1: [[0, 0]] }, ticks: 5 }).song)).toEqual([
      '5 903c50',
      '6 803c40',
      '96 ff2f',
    ]);
  });

  it('a note that would leave another of its key a tick stays where it is', () => {
    const two = songOf([...note(0, 96, 60), ...note(96, 96, 60)]);
    const moved = (ticks: number) => take(two, 'notes.shift', { rows: { t1: [[2, 2]] }, ticks });
    expect(moved(-95).report.skipped[0]!.why).toBe('Every note must stay longer than a tick.');
    expect(rowsOf(moved(-94).song).slice(0, 2)).toEqual(['0 903c50', '2 803c40']);
    // The first is moved to a tick before the second: it is the one that stays.
    const first = take(two, 'notes.shift', { rows: { t1: [[0, 0]] }, ticks: 95 });
    expect(first.report.skipped[0]!.why).toBe('Every note must stay longer than a tick.');
  });

  it('drawn notes end before others of their key begin', () => {
    expect(
      rowsOf(
        take(song, 'notes.draw', {
          notes: { t1: [{ atTick: 192, length: 10, key: 60, velocity: 70 }] },
        }).song,
      ).slice(-4),
    ).toEqual(['192 803c40', '192 903c46', '202 803c40', '202 ff2f']);
  });

  it('velocities go to the rows named, note-ons only', () => {
    expect(rowsOf(take(song, 'velocity.stroke', { velocities: { t1: [[0, 33]] } }).song)[0]).toBe(
      '0 903c21',
    );
    expect(refusal(song, 'velocity.stroke', { velocities: { t1: [[1, 33]] } })).toBe(
      'settings-invalid',
    );
  });

  it('an edited note moves whole, a note-off alone', () => {
    const at = (s: Song): number[] => startsOf(first(s));
    expect(at(take(song, 'events.edit', { track: 't1', row: 0, atTick: 20 }).song)).toEqual([
      20, 96,
    ]);
    expect(
      rowsOf(take(song, 'events.edit', { track: 't1', row: 0, length: 24, data1: 61 }).song).slice(
        0,
        2,
      ),
    ).toEqual(['0 903d50', '24 803d40']);
    const off = first(song).status.findIndex((s) => s >> 4 === 8);
    expect(
      rowsOf(take(song, 'events.edit', { track: 't1', row: off, atTick: 48 }).song).slice(0, 2),
    ).toEqual(['0 903c50', '48 803c40']);
  });

  it('texts and controllers are edited in place, wrong values refused', () => {
    const text = first(song).status.findIndex((s) => s === META);
    expect(
      rowsOf(take(song, 'events.edit', { track: 't1', row: text, payload: [104, 111] }).song)[text],
    ).toBe('50 ff01 686f');
    const cc = first(song).status.findIndex((s) => s >> 4 === 0xb);
    expect(
      rowsOf(take(song, 'events.edit', { track: 't1', row: cc, data2: 5, channel: 3 }).song)[cc],
    ).toBe('100 b20705');
    for (const settings of [
      { row: 999, data1: 1 },
      { row: 0, data2: 0 },
      { row: cc, payload: [1] },
      { row: text, channel: 2 },
      { row: text, data1: 47 },
      { row: first(song).count - 1, data1: 1 },
    ])
      expect(
        refusal(song, 'events.edit', { track: 't1', ...settings }),
        JSON.stringify(settings),
      ).toBe('settings-invalid');
    expect(take(song, 'events.edit', { track: 't1', row: cc, data2: 90 }).report.changes).toEqual(
      [],
    );
  });

  it('events are inserted before the notes of their tick, notes with their ends', () => {
    expect(
      rowsOf(
        take(song, 'events.insert', { track: 't1', atTick: 96, status: 0xc0, data1: 9 }).song,
      ).slice(2, 5),
    ).toEqual(['96 c009', '96 803c40', '96 903c50']);
    expect(
      rowsOf(
        take(song, 'events.insert', {
          track: 't1',
          atTick: 0,
          status: 0x91,
          data1: 50,
          data2: 9,
          length: 7,
        }).song,
      ).slice(0, 3),
    ).toEqual(['0 903c50', '0 913209', '7 813240']);
    for (const settings of [
      { status: 0xf1 },
      { status: 0xff, data1: 0x2f },
      { status: 0x90, data1: 1, data2: 0 },
      { status: 0x90, data1: 1, data2: 1, payload: [1] },
    ])
      expect(refusal(song, 'events.insert', { track: 't1', atTick: 0, ...settings })).toBe(
        'settings-invalid',
      );
  });
});
