import { describe, expect, it } from 'vitest';
import { controller, note, songOf } from '../../tests/support/songs.ts';
import { channelEvent } from '../smf/events.ts';
import { tempoMap } from '../timing/tempo-map.ts';
import { Layers } from './layers.ts';
import { Player, type Instrument } from './player.ts';
import { PortInstrument } from './port-instrument.ts';
import { portsOf } from './ports.ts';
import { Routes } from './routes.ts';
import { asWritten, Transport } from './transport.ts';
import { watched } from './watched.ts';

const hex = (...bytes: number[]): string =>
  bytes.map((b) => b.toString(16).padStart(2, '0')).join('');

function recorder(): { told: string[]; to: Instrument } {
  const told: string[] = [];
  return {
    told,
    to: {
      message: (_, status, data1, data2) => told.push(hex(status, data1, data2)),
      systemExclusive: (_, bytes) => told.push(hex(0xf0, ...bytes)),
      silence: (track) => told.push(`silence ${track}`),
      reset: () => told.push('reset'),
    },
  };
}
const playerOf = (song: ReturnType<typeof songOf>, to: Instrument): Player =>
  new Player(
    song.tracks.map((t) => t.events),
    tempoMap([], song.division),
    to,
  );

describe('layers: tracks that share a channel, each on one of its own', () => {
  // Piano and strings on channel 1, drums of two tracks on channel 10.
  const song = songOf(
    [channelEvent(0, 0xc0, 3), ...note(0, 96, 60)],
    [...note(0, 96, 67), controller(48, 7, 50)],
    note(0, 10, 36, 90, 9),
    note(0, 10, 38, 90, 9),
  );
  const listen = () => {
    const told: string[] = [];
    const tracks = song.tracks.map((t) => t.events);
    const layers = new Layers(
      tracks,
      portsOf(tracks),
      (n) => ({
        message: (status, data1, data2) => told.push(`${n} ${hex(status, data1, data2)}`),
        systemExclusive: (bytes) => told.push(`${n} ${hex(0xf0, ...bytes)}`),
      }),
      () => told.push('reset'),
    );
    return { told, player: playerOf(song, layers) };
  };

  it('notes go to the layer of their track, what is said to the channel to all of them; drums stay together', () => {
    const { told, player } = listen();
    player.advance(2);
    expect(told).toEqual([
      ...['0 c00300', '1 c00300', '0 903c50', '1 904350', '0 99245a', '0 99265a'],
      ...['0 892440', '0 892640', '0 b00732', '1 b00732', '0 803c40', '1 804340'],
    ]);
  });

  it('songs of more than 24 parts share channels: each channel more costs as much as its messages', () => {
    const many = songOf(...Array.from({ length: 25 }, (_, n) => note(0, 96, 40 + n)));
    const blocks = new Set<number>();
    const tracks = many.tracks.map((t) => t.events);
    const layers = new Layers(
      tracks,
      portsOf(tracks),
      (n) => ({ message: () => blocks.add(n), systemExclusive: () => undefined }),
      () => undefined,
    );
    playerOf(many, layers).advance(1);
    expect([...blocks]).toEqual([0]);
  });

  it('a silenced track rings no more; what it shares with others does', () => {
    const { told, player } = listen();
    player.advance(0.1);
    told.length = 0;
    player.leaveOut(new Set([1, 3]));
    expect(told).toEqual(['1 804300', '1 b07800']);
  });
});

describe('tracks that sound at a port', () => {
  const song = songOf(
    [channelEvent(0, 0xc0, 3), channelEvent(0, 0xc1, 8), ...note(0, 96, 60)],
    note(0, 96, 67),
    note(0, 96, 72, 80, 1),
  );
  const routed = (...out: number[]) => {
    const [inside, outside] = [recorder(), recorder()];
    const tracks = song.tracks.map((t) => t.events);
    const routes = new Routes(inside.to, outside.to, {
      tracks,
      ports: portsOf(tracks),
      sentOut: new Set(out),
    });
    playerOf(song, routes).advance(2);
    return { inside: inside.told, outside: outside.told };
  };

  it('channels that both play on are told in both places, others where they are played', () => {
    expect(routed(1)).toEqual({
      inside: ['c00300', 'c10800', '903c50', '914850', '803c40', '814840'],
      outside: ['c00300', '904350', '804340'],
    });
    expect(routed(0, 1, 2).inside).toEqual([]);
  });

  it('a device is put back to where it starts, with every note off, and silenced by one key whatever it holds', () => {
    const sent: string[] = [];
    const device = new PortInstrument((bytes) => sent.push(hex(...bytes)));
    device.message(0, 0x90, 60, 80);
    device.message(0, 0xc0, 5, 0);
    device.message(0, 0xb0, 7, 20);
    device.message(0, 0xe0, 0, 80);
    // Program and pressure have one byte of data (MIDI 1.0).
    expect(sent).toEqual(['903c50', 'c005', 'b00714', 'e00050']);
    sent.length = 0;
    device.reset();
    // Volume 100, bend centre: where a General MIDI module starts from; controllers first, for a bank
    // counts with the program behind it.
    expect(sent).toEqual(['803c40', 'b00764', 'c000', 'e00040']);
    sent.length = 0;
    device.panic();
    expect(sent).toHaveLength(48);
    expect(sent.slice(0, 3)).toEqual(['b04000', 'b07800', 'b07b00']);
  });

  it('whoever watches is told of the notes of each track', () => {
    const heard: string[] = [];
    const to = watched(recorder().to, (track, channel, key, velocity) =>
      heard.push(`${track} ${channel} ${key} ${velocity}`),
    );
    playerOf(song, to).advance(2);
    expect(heard).toEqual([
      ...['0 0 60 80', '1 0 67 80', '2 1 72 80'],
      ...['0 0 60 0', '1 0 67 0', '2 1 72 0'],
    ]);
  });
});

describe('what goes to a port', () => {
  it('is due when the map says, at any speed, however time is cut (law: within a microsecond; 2 ms are wanted)', () => {
    const rate = 48_000;
    // A gradual change by steps: each quarter 4 % shorter than the one before.
    const tempos = Array.from({ length: 24 }, (_, n) => ({
      atTick: n * 96,
      tempo: Math.round(600_000 * 0.96 ** n),
    }));
    const song = songOf(
      Array.from({ length: 48 }, (_, n) => note(n * 48 + (n % 5) * 7, 10, 60 + (n % 12))).flat(),
    );
    const begins = [...song.tracks[0]!.events.atTick].filter(
      (_, n) => song.tracks[0]!.events.status[n]! >> 4 === 9,
    );
    // By adding up the tempos quarter by quarter.
    const secondsAt = (tick: number): number => {
      const whole = Math.min(23, Math.floor(tick / 96));
      const before = tempos.slice(0, whole).reduce((sum, t) => sum + t.tempo / 1e6, 0);
      return before + ((tick - whole * 96) / 96) * (tempos[whole]!.tempo / 1e6);
    };
    for (const [speed, block] of [
      [1, 64],
      [0.5, 128],
      [1.7, 37],
    ] as const) {
      let now = 0;
      const due: number[] = [];
      const device = new PortInstrument((bytes) => {
        if (bytes[0] === 0x90) due.push(now + player.ahead(transport.seconds) / speed);
      });
      const player = new Player([song.tracks[0]!.events], tempoMap(tempos, song.division), device);
      const transport = new Transport(player, rate, [], () => undefined);
      transport.set({ ...asWritten, rate: speed });
      transport.begin(0);
      while (due.length < begins.length) now += transport.next(block) / rate;
      due.forEach((at, n) => expect(at * speed).toBeCloseTo(secondsAt(begins[n]!), 6));
    }
  });
});
