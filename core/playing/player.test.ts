import { describe, expect, it } from 'vitest';
import { note, songOf } from '../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import type { Song } from '../song/song.ts';
import { tempoMap } from '../timing/tempo-map.ts';
import { timingOf } from '../song/timing-of.ts';
import { Player, type Instrument } from './player.ts';

/** What an instrument was told, as texts: port, then the bytes. */
function listening(song: Song): { told: string[]; player: Player } {
  const told: string[] = [];
  const hex = (n: number): string => n.toString(16).padStart(2, '0');
  const to: Instrument = {
    message: (port, status, data1, data2) =>
      told.push(`${port} ${hex(status)}${hex(data1)}${hex(data2)}`),
    systemExclusive: (port, bytes) => told.push(`${port} f0${[...bytes].map(hex).join('')}`),
    reset: () => told.push('reset'),
  };
  return {
    told,
    player: new Player(
      song.tracks.map((t) => t.events),
      tempoMap(timingOf(song).tempos, song.division),
      to,
    ),
  };
}

describe('playing', () => {
  it('says everything in time, each once, track after track on one tick (120 BPM and 96 PPQ: 192 ticks a second)', () => {
    const { told, player } = listening(
      songOf(
        [metaEvent(0, meta.trackName), channelEvent(96, 0xc0, 5)],
        [channelEvent(96, 0x90, 60, 80), channelEvent(192, 0x80, 60, 0)],
      ),
    );
    player.advance(0.5);
    expect(told).toEqual([]);
    player.advance(0.51);
    expect(told).toEqual(['0 c00500', '0 903c50']);
    player.advance(0.51);
    player.advance(2);
    expect(told).toEqual(['0 c00500', '0 903c50', '0 803c00']);
    expect(player.end).toBe(1);
  });

  it('obeys the tempo map, and the clock of files in frames (by hand: 25 frames of 40 ticks are 1,000 a second)', () => {
    const slow = listening(
      songOf([metaEvent(96, meta.tempo, Uint8Array.of(0x0f, 0x42, 0x40)), ...note(192, 96, 60)]),
    );
    // A quarter at 120 BPM, one at 60: 1.5 s.
    slow.player.advance(1.499);
    expect(slow.told).toEqual([]);
    slow.player.advance(1.501);
    expect(slow.told).toEqual(['0 903c50']);
    const frames = listening({
      ...songOf([metaEvent(0, meta.tempo, Uint8Array.of(1, 0, 0)), ...note(2000, 500, 60)]),
      division: { kind: 'smpte', framesPerSecond: 25, ticksPerFrame: 40 },
    });
    frames.player.advance(1.999);
    expect(frames.told).toEqual([]);
    frames.player.advance(2.001);
    expect(frames.told).toEqual(['0 903c50']);
    expect(frames.player.end).toBe(2.5);
  });

  it('goes to a place with programs, controllers and bend as they are there, and no notes', () => {
    const song = songOf([
      channelEvent(0, 0xc0, 5),
      channelEvent(0, 0xb0, 7, 90),
      channelEvent(0, 0xb0, 101, 0),
      channelEvent(0, 0xb0, 100, 0),
      channelEvent(0, 0xb0, 6, 12),
      ...note(0, 400, 60),
      channelEvent(48, 0xb0, 7, 100),
      channelEvent(96, 0xc0, 9),
      channelEvent(96, 0xe0, 0, 80),
      channelEvent(500, 0x90, 62, 70),
    ]);
    const { told, player } = listening(song);
    player.seek(1);
    expect(told).toEqual([
      'reset',
      '0 b06500',
      '0 b06400',
      '0 b0060c',
      '0 b00764',
      '0 c00900',
      '0 e00050',
    ]);
    player.advance(3);
    expect(told.slice(7)).toEqual(['0 803c40', '0 903e46']);
    player.seek(0);
    player.advance(0.01);
    expect(told.slice(9)).toEqual([
      'reset',
      '0 c00500',
      '0 b0075a',
      '0 b06500',
      '0 b06400',
      '0 b0060c',
      '0 903c50',
    ]);
  });

  it('leaves the notes of silent tracks out, keeps ports apart, and passes system exclusive on', () => {
    const song = songOf(note(0, 10, 60), [
      metaEvent(0, meta.port, Uint8Array.of(1)),
      {
        atTick: 0,
        status: 0xf0,
        data1: 0,
        data2: 0,
        payload: Uint8Array.of(0x7e, 0x7f, 9, 1, 0xf7),
      },
      ...note(0, 10, 62),
    ]);
    const { told, player } = listening(song);
    player.leaveOut(new Set([0]));
    player.advance(1);
    expect(told).toEqual(['1 f07e7f0901f7', '1 903e50', '1 803e40']);
  });

  it('says system exclusive in packets as one message, with its last; escaped bytes of other kinds are none (SMF 1.0)', () => {
    const packet = (atTick: number, status: number, ...payload: number[]) => ({
      atTick,
      status,
      data1: 0,
      data2: 0,
      payload: Uint8Array.from(payload),
    });
    const song = songOf([
      packet(0, 0xf0, 0x43, 0x12),
      packet(10, 0xf7, 0x01),
      packet(20, 0xf7, 0x02, 0xf7),
      packet(30, 0xf7, 0xf0, 0x7d, 0x05, 0xf7),
      packet(40, 0xf7, 0xf3, 0x01),
    ]);
    const { told, player } = listening(song);
    player.advance(1);
    expect(told).toEqual(['0 f043120102f7', '0 f07d05f7']);
  });
});
