import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../tests/support/independent.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { channelEvent, meta, metaEvent, type EventValue } from '../smf/events.ts';
import { channelsOf, type Song } from '../song/song.ts';
import { runStep } from './run.ts';

function songOf(...tracks: EventValue[][]): Song {
  return {
    title: 'x',
    format: 1,
    division: { kind: 'ppq', ticksPerQuarter: 96 },
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    encoding: 'UTF-8',
    nextTrack: 99,
    tracks: tracks.map((events, i) => ({ id: `t${i + 1}`, events: eventsFrom(events) })),
  };
}

function step(
  song: Song,
  operation: string,
  settings: object = {},
  tracks: 'all' | string[] = 'all',
) {
  const result = runStep(song, { operation, settings, scope: { tracks } });
  if (!result.ok) throw new Error(JSON.stringify(result.problem));
  return result.value;
}

const lines = (song: Song): string[][] =>
  song.tracks.map((t) => plainEvents(t.events).filter((e) => !e.endsWith('ff2f')));
const note = (channel: number): EventValue[] => [
  channelEvent(0, 0x90 | channel, 60, 80),
  channelEvent(50, 0x80 | channel, 60, 0),
];

describe('setting channels', () => {
  const song = songOf(
    [metaEvent(0, meta.trackName, Uint8Array.of(65))],
    note(0),
    note(0),
    note(9),
    note(4),
  );

  it('gives each part its own, leaves the drums and passes over channel 10', () => {
    const { song: after, report } = step(song, 'tracks.channel');
    expect(after.tracks.map((t) => channelsOf(t.events))).toEqual([[], [0], [1], [9], [2]]);
    expect(report.skipped.map((s) => s.why)).toEqual([
      'It plays on no channel.',
      'It plays on this channel already.',
      'It plays the drums.',
    ]);
  });

  it('takes channels that nobody else uses first', () => {
    expect(
      step(song, 'tracks.channel', {}, ['t3']).song.tracks.map((t) => channelsOf(t.events)[0]),
    ).toEqual([undefined, 0, 1, 9, 4]);
  });

  it('puts parts on the one asked for, channel prefixes too, and changes nothing else', () => {
    const prefixed = songOf([
      metaEvent(0, meta.channelPrefix, Uint8Array.of(2)),
      metaEvent(0, meta.instrumentName, Uint8Array.of(66)),
      ...note(2),
    ]);
    expect(lines(step(prefixed, 'tracks.channel', { channel: 10 }).song)).toEqual([
      ['0 ff20 9', '0 ff04 42', '0 993c50', '50 893c00'],
    ]);
  });
});

describe('tidying the tempo map', () => {
  const tempo = (tick: number, byte: number): EventValue =>
    metaEvent(tick, meta.tempo, Uint8Array.of(7, byte, 0x20));
  const meter = (tick: number, numerator: number): EventValue =>
    metaEvent(tick, meta.timeSignature, Uint8Array.of(numerator, 2, 24, 8));

  it('gathers tempo and meter in the first track in their order and leaves out what is in force already', () => {
    const song = songOf(
      [tempo(0, 1), tempo(96, 1), meter(0, 4)],
      [...note(0), tempo(48, 2), meter(96, 4), meter(192, 3)],
    );
    const { song: after, described } = step(song, 'timing.tidy');
    expect(lines(after)).toEqual([
      ['0 ff51 459040', '0 ff58 4 4 24 8', '48 ff51 459296', '96 ff51 459040', '192 ff58 3 4 24 8'],
      ['0 903c50', '50 803c00'],
    ]);
    expect(described).toBe(
      'Tidied the tempo map: 3 moved to the first track, 1 stated again what was in force',
    );
  });

  it('leaves a tidy song as the same object', () => {
    const song = songOf([tempo(0, 1), meter(0, 4)], note(0));
    expect(step(song, 'timing.tidy').song).toBe(song);
  });
});

describe('settling controllers', () => {
  it('brings bends back and lifts pedals at the end of the track, in no other', () => {
    const song = songOf(
      [
        ...note(0),
        channelEvent(10, 0xe0, 0, 70),
        channelEvent(20, 0xb0, 64, 127),
        metaEvent(400, meta.endOfTrack),
      ],
      note(1),
    );
    const { song: after, report } = step(song, 'controllers.settle');
    expect(lines(after)[0]!.slice(-2)).toEqual(['400 e00040', '400 b04000']);
    expect(report.changes.map((c) => c.counts)).toEqual([{ bend: 1, controller: 1 }]);
    expect(after.tracks[1]).toBe(song.tracks[1]);
  });
});
