import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { note, songOf } from '../../tests/support/songs.ts';
import { channelEvent, meta, metaEvent } from '../smf/events.ts';
import type { Song } from '../song/song.ts';
import { timingOf } from '../song/timing-of.ts';
import { tempoMap } from '../timing/tempo-map.ts';
import { beatsOf } from './beats.ts';
import { Player } from './player.ts';
import { asWritten, Transport } from './transport.ts';

const rate = 48_000;

/**
 * A song that is played: what was said at which sample, clicks among it. 120 BPM and 96 PPQ: a quarter is
 * 24,000 samples.
 */
function playing(song: Song) {
  const told: string[] = [];
  const exclusive: string[] = [];
  let at = 0;
  const hex = (n: number): string => n.toString(16).padStart(2, '0');
  const timing = timingOf(song);
  const tempo = tempoMap(timing.tempos, song.division);
  const player = new Player(
    song.tracks.map((t) => t.events),
    tempo,
    {
      message: (_, status, data1, data2) =>
        told.push(`${at} ${hex(status)}${hex(data1)}${hex(data2)}`),
      systemExclusive: (_, bytes) => exclusive.push(`${at} ${[...bytes].map(hex).join('')}`),
      reset: () => told.push(`${at} reset`),
    },
  );
  const beats = beatsOf(timing.meters, tempo, { division: song.division, endTick: 96 * 64 });
  const transport = new Transport(player, rate, beats, (first) =>
    told.push(`${at} ${first ? 'CLICK' : 'click'}`),
  );
  const run = (samples: number, most = 64): void => {
    for (const end = at + samples; at < end;) at += transport.next(Math.min(most, end - at));
  };
  return { told, exclusive, transport, player, run };
}

const line = songOf([], Array.from({ length: 32 }, (_, n) => note(n * 96, 48, 60 + n)).flat());
/**
 * Notes that began, with their samples, in blocks of 64: an event is said at the beginning of the block it
 * falls into.
 */
const begun = (told: readonly string[]): string[] =>
  told.filter((t) => / 9/.test(t) && !t.endsWith('00'));

describe('loops', () => {
  it('come round to the sample, as often as they are played; their first note begins with them', () => {
    const { told, transport, run } = playing(line);
    transport.set({ ...asWritten, loop: { from: 1, to: 2 } });
    transport.begin(1);
    run(48_000 * 3 + 1);
    // Beats 3 and 4 (keys 62 and 63) at 0 and 24,000 samples of each round of 48,000; by hand.
    const starts = begun(told).map((t) => Number(t.split(' ')[0]));
    expect(starts.filter((_, n) => n % 2 === 0)).toEqual([0, 48_000, 96_000, 144_000]);
    expect(begun(told).map((t) => t.split(' ')[1]!.slice(2, 4))).toEqual([
      '3e',
      '3f',
      '3e',
      '3f',
      '3e',
      '3f',
      '3e',
    ]);
  });

  it('end what sounds, let go of a damper that is held, and give back what was turned inside', () => {
    const song = songOf(
      [],
      [
        channelEvent(0, 0xb0, 7, 50),
        ...note(96, 400, 60),
        channelEvent(100, 0xb0, 64, 127),
        channelEvent(100, 0xb0, 7, 90),
        channelEvent(100, 0xb0, 10, 1),
        channelEvent(100, 0xe0, 0, 0),
      ],
    );
    const { told, transport, run } = playing(song);
    transport.set({ ...asWritten, loop: { from: 0.5, to: 1 } });
    transport.begin(0.5);
    run(24_001);
    const round = told.filter((t) => t.startsWith('24000 '));
    expect(round).toEqual([
      '24000 803c00',
      '24000 b04000',
      '24000 b00a40',
      '24000 e00040',
      '24000 b00732',
      '24000 903c50',
    ]);
    expect(told.filter((t) => t.endsWith('reset'))).toHaveLength(1);
  });

  it('give back bend ranges and other parameters that were turned inside, and say again what stood before, in order', () => {
    const turned = (tick: number, number: number, value: number) =>
      channelEvent(tick, 0xb0, number, value);
    const song = songOf(
      [],
      [
        ...[turned(0, 101, 0), turned(0, 100, 0), turned(0, 6, 12)],
        ...note(96, 10, 60),
        ...[turned(100, 101, 0), turned(100, 100, 0), turned(100, 6, 24)],
        ...[turned(120, 99, 1), turned(120, 98, 33), turned(120, 6, 10)],
      ],
    );
    const { told, transport, run } = playing(song);
    transport.set({ ...asWritten, loop: { from: 0.5, to: 1 } });
    transport.begin(0.5);
    run(24_001);
    const round = told.filter((t) => t.startsWith('24000 b')).map((t) => t.slice(6));
    expect(round).toEqual([
      // RPN 0 back to two semitones (General MIDI), NRPN 1/33 to its middle, then RPN 0 as it stood before the loop.
      ...['b06500', 'b06400', 'b00602', 'b02600', 'b06301', 'b06221', 'b00640', 'b02600'],
      ...['b06500', 'b06400', 'b0060c'],
    ]);
  });

  it('say a program again whose bank was another one inside, though its number is the same', () => {
    const song = songOf(
      [],
      [
        channelEvent(0, 0xc0, 5),
        channelEvent(100, 0xb0, 0, 8),
        channelEvent(101, 0xc0, 5),
        ...note(96, 10, 60),
      ],
    );
    const { told, transport, run } = playing(song);
    transport.set({ ...asWritten, loop: { from: 0.5, to: 1 } });
    transport.begin(0.5);
    run(24_001);
    expect(told.filter((t) => t.startsWith('24000 ')).slice(0, 2)).toEqual([
      '24000 b00000',
      '24000 c00500',
    ]);
  });

  it('say system exclusive again only where others were said inside', () => {
    const reset = (tick: number, id: number) => ({
      atTick: tick,
      status: 0xf0,
      data1: 0,
      data2: 0,
      payload: Uint8Array.of(0x7e, id, 9, 1, 0xf7),
    });
    const inside = songOf([], [reset(0, 1), reset(100, 2), ...note(96, 10, 60)]);
    const before = songOf([], [reset(0, 1), ...note(96, 10, 60)]);
    const exclusives = (song: Song): number => {
      const { transport, run, exclusive } = playing(song);
      transport.set({ ...asWritten, loop: { from: 0.5, to: 1 } });
      transport.begin(0.5);
      run(24_001);
      return exclusive.length;
    };
    // Said when it begins; inside, and then what stood before it.
    expect(exclusives(before)).toBe(1);
    expect(exclusives(inside)).toBe(3);
  });

  it('begun behind their end they are played past; chosen while it plays behind them, they are gone back to', () => {
    const { told, transport, run } = playing(line);
    transport.set({ ...asWritten, loop: { from: 1, to: 2 } });
    transport.begin(3);
    run(48_000);
    expect(begun(told).map((t) => t.split(' ')[1]!.slice(2, 4))).toEqual(['42', '43']);
    transport.set({ ...asWritten, loop: { from: 1, to: 2.5 } });
    run(64);
    expect(transport.seconds).toBeLessThan(1.1);
  });

  it('shorter than 20 ms are none, and those behind the place are no longer reached', () => {
    const { told, transport, run } = playing(line);
    transport.set({ ...asWritten, loop: { from: 1, to: 1.001 } });
    transport.begin(0);
    run(48_000 * 2);
    expect(begun(told)).toHaveLength(4);
  });
});

describe('speed', () => {
  it('at half of it everything comes at twice the time, and after ten minutes to the sample', () => {
    const long = songOf([], note(96 * 600, 48, 60));
    const { told, transport, run } = playing(long);
    transport.set({ ...asWritten, rate: 0.5 });
    transport.begin(0);
    run(48_000 * 601, 128);
    // Quarter 600 at 120 BPM is at 300 s; at half speed at 600 s, 28,800,000 samples: said with its block of 128.
    const [at] = begun(told)[0]!.split(' ').map(Number);
    expect(28_800_000 - at!).toBeGreaterThanOrEqual(0);
    expect(28_800_000 - at!).toBeLessThan(128);
    expect(transport.seconds).toBe(300.5);
  });

  it('changes on the way without a jump (law: the same music, each message once, in order)', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: 1, max: 60_000 }), fc.constantFrom(0.25, 0.5, 1, 1.7, 4)),
          { maxLength: 12 },
        ),
        (turns) => {
          const { told, transport, run } = playing(line);
          transport.begin(0);
          for (const [samples, faster] of turns) {
            run(samples);
            const before = transport.seconds;
            transport.set({ ...asWritten, rate: faster });
            expect(transport.seconds).toBe(before);
          }
          transport.set({ ...asWritten, rate: 4 });
          run(48_000 * 6);
          expect(begun(told).map((t) => parseInt(t.split(' ')[1]!.slice(2, 4), 16))).toEqual(
            Array.from({ length: 32 }, (_, n) => 60 + n),
          );
        },
      ),
      { numRuns: scaleRuns(60) },
    );
  });
});

describe('the metronome', () => {
  it('clicks on every beat to the sample, louder on the first, over a gradual change as the map has it', () => {
    const song = songOf([
      metaEvent(0, meta.timeSignature, Uint8Array.of(3, 2, 24, 8)),
      metaEvent(96, meta.tempo, Uint8Array.of(0x0f, 0x42, 0x40)),
    ]);
    const { told, transport, run } = playing(song);
    transport.set({ ...asWritten, metronome: true });
    transport.begin(0);
    run(48_000 * 4);
    // By hand: a quarter of 0.5 s, then 60 BPM.
    expect(told.slice(1, 5)).toEqual(['0 CLICK', '24000 click', '72000 click', '120000 CLICK']);
  });

  it('counts a bar in before the song begins, at the speed that is chosen', () => {
    const { told, transport, run } = playing(line);
    transport.set({ ...asWritten, rate: 2 });
    transport.begin(1, true);
    run(48_000 + 1);
    expect(told).toEqual([
      '0 reset',
      '0 CLICK',
      '12000 click',
      '24000 click',
      '36000 click',
      '48000 903e50',
    ]);
  });
});

describe('parts that are left out', () => {
  it('fall silent at once, notes of others on the same key go on, and they are heard again with their next note', () => {
    const song = songOf([], [...note(0, 192, 60), ...note(192, 90, 62)], note(0, 192, 60));
    const { told, transport, player, run } = playing(song);
    transport.begin(0);
    run(64);
    player.leaveOut(new Set([1]));
    expect(told.filter((t) => t.includes(' 80'))).toEqual([]);
    player.leaveOut(new Set([1, 2]));
    expect(told.filter((t) => t.includes(' 80'))).toEqual(['64 803c00']);
    player.leaveOut(new Set([2]));
    run(48_000);
    // The first part ends its note as it is written; the silent one has nothing to end.
    expect(told.filter((t) => t.includes(' 803c'))).toHaveLength(2);
    expect(begun(told).at(-1)).toContain('903e');
  });
});

describe('the end of what is played', () => {
  it('is where it stops, to the sample; begun behind it, it plays on', () => {
    const { told, transport, run } = playing(songOf([], note(96, 300, 61)));
    transport.set({ ...asWritten, stop: 1 });
    transport.begin(0.5);
    run(23_999);
    expect(transport.over).toBe(false);
    run(1);
    expect(transport.over).toBe(true);
    expect(begun(told)).toHaveLength(1);
    transport.finish();
    expect(told.at(-1)).toBe('24000 803d00');
    transport.begin(1.5);
    run(48_000);
    expect(transport.over).toBe(false);
  });
});

describe('a song in the place of another', () => {
  it('goes on from there: notes end, and only what differs is said', () => {
    const told: string[] = [];
    const to = {
      message: (_: number, status: number, data1: number, data2: number) =>
        told.push([status, data1, data2].map((b) => b.toString(16).padStart(2, '0')).join('')),
      systemExclusive: () => undefined,
      reset: () => told.push('reset'),
    };
    const player = (song: Song) =>
      new Player(
        song.tracks.map((t) => t.events),
        tempoMap([], song.division),
        to,
      );
    const volume = (value: number) => channelEvent(0, 0xb0, 7, value);
    const pan = channelEvent(0, 0xb0, 10, 20);
    const program = channelEvent(0, 0xc0, 5);
    const before = player(songOf([volume(90), pan, program, ...note(0, 192, 60)]));
    const after = player(songOf([volume(40), program, ...note(0, 192, 60), ...note(150, 20, 67)]));
    before.seek(0);
    before.advance(0.5);
    told.length = 0;
    after.takeOver(before, 0.5);
    after.advance(0.9);
    expect(told).toEqual(['803c00', 'b00a40', 'b00728', '904350', '804340']);
  });
});
