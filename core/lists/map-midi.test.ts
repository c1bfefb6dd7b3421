import type { TimedSong } from '../song/maps.ts';
import { describe, expect, it } from 'vitest';
import { meta, metaEvent } from '../smf/events.ts';
import { eventsFrom } from '../smf/event-builder.ts';
import { writeSmf } from '../smf/write.ts';
import { encodeText } from '../smf/text.ts';
import type { Division } from '../smf/division.ts';
import { isMidi, readMidiMap } from './map-midi.ts';

const into = (division: Division): TimedSong => ({ division }) as TimedSong;
const quarters = (ticksPerQuarter: number): Division => ({ kind: 'ppq', ticksPerQuarter });
const file = (events: Parameters<typeof eventsFrom>[0], division = quarters(480)): Uint8Array =>
  writeSmf({
    format: 1,
    division,
    headerExtra: new Uint8Array(0),
    alienChunks: [],
    tracks: [{ events: eventsFrom(events) }],
  });

describe('the map of a MIDI file', () => {
  const tempo = (tick: number, microseconds: number) =>
    metaEvent(
      tick,
      meta.tempo,
      Uint8Array.of(microseconds >> 16, (microseconds >> 8) & 255, microseconds & 255),
    );
  const text = (tick: number, type: number, said: string) =>
    metaEvent(tick, type, encodeText(said));

  it('is said in the ticks of the song, tempos to the microsecond, the slowest of the format too', () => {
    const read = readMidiMap(
      file([
        tempo(0, 0xffffff),
        tempo(960, 618_557),
        text(1001, meta.marker, 'Door'),
        text(480, meta.marker, 'A'),
        text(1920, meta.marker, 'A (end)'),
        metaEvent(0, meta.timeSignature, Uint8Array.of(6, 3, 36, 8)),
      ]),
      into(quarters(96)),
    );
    expect(read.tempos.map((t) => [t.atTick, Math.round(60e6 / t.bpm)])).toEqual([
      [0, 0xffffff],
      [192, 618_557],
    ]);
    expect(read.meters).toEqual([{ atTick: 0, numerator: 6, denominator: 8 }]);
    expect(read.marks).toEqual([{ atTick: 200, kind: 'marker', text: 'Door' }]);
    expect(read.sections).toEqual([{ name: 'A', fromTick: 96, toTick: 384 }]);
    expect(read.faults).toEqual([]);
  });

  it('says one of a kind a tick: keys that every track states, tempos stated twice', () => {
    const read = readMidiMap(
      file([
        tempo(0, 500_000),
        tempo(0, 400_000),
        metaEvent(0, meta.keySignature, Uint8Array.of(1, 0)),
        metaEvent(0, meta.keySignature, Uint8Array.of(1, 0)),
      ]),
      into(quarters(480)),
    );
    expect([read.tempos.map((t) => t.bpm), read.keys]).toEqual([
      [150],
      [{ atTick: 0, sharps: 1, minor: false }],
    ]);
  });

  it('is not had of frames, of something else, or for a song in frames; why is said', () => {
    const frames: Division = { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 };
    expect(readMidiMap(file([], frames), into(quarters(480))).faults[0]!.why).toContain(
      'that file are parts of frames',
    );
    expect(readMidiMap(file([]), into(frames)).faults[0]!.why).toContain(
      'this song are parts of frames',
    );
    expect(readMidiMap(encodeText('kind,position'), into(quarters(480))).faults[0]!.why).toContain(
      'cannot be read',
    );
    expect([
      isMidi('x.kar', new Uint8Array(0)),
      isMidi('x.csv', file([])),
      isMidi('x.csv', encodeText('kind')),
    ]).toEqual([true, true, false]);
  });
});
