import { describe, expect, it } from 'vitest';
import { plainEvents } from '../../../tests/support/independent.ts';
import { controller, note, songOf, take } from '../../../tests/support/songs.ts';
import { tempoEvent } from '../../edit/edit-map.ts';
import { songsFromSmf } from '../../song/from-smf.ts';
import { channelEvent, meta, metaEvent, SYSEX, type EventValue } from '../../smf/events.ts';
import { readSmf } from '../../smf/read.ts';
import { encodeText } from '../../smf/text.ts';
import type { Song } from '../../song/song.ts';
import { timingOf } from '../../song/timing-of.ts';
import { makeFile, planHandoff, type Handoff } from '../handoff.ts';
import type { HandoffAsked } from '../settings.ts';

const text = (tick: number, type: number, said: string): EventValue =>
  metaEvent(tick, type, encodeText(said));
const exclusive = (tick: number, ...bytes: number[]): EventValue => ({
  atTick: tick,
  status: SYSEX,
  data1: 0,
  data2: 0,
  payload: Uint8Array.of(...bytes, 0xf7),
});

function files(song: Song, asked: HandoffAsked): Handoff[] {
  const planned = planHandoff(song, asked);
  if (!planned.ok) throw new Error(JSON.stringify(planned.problem));
  return planned.value.plan.files.map((file) => {
    const made = makeFile(planned.value, file, { received: song, asRead: song });
    if (!made.ok) throw new Error(made.problem.code);
    expect(made.value.proof.differences).toEqual([]);
    return made.value;
  });
}
const songOfFile = ({ bytes }: Handoff): Song => {
  const read = readSmf(bytes);
  if (!read.ok) throw new Error(read.problem.code);
  return songsFromSmf(read.value.smf, 'x.mid')[0]!;
};
const lines = (file: Handoff): string[][] =>
  songOfFile(file).tracks.map((t) => plainEvents(t.events));

/** A bar of 4/4 is 384 ticks at 96 PPQ. Expected events are worked by hand. */
describe('notes that ring over an end', () => {
  const song = songOf(
    [metaEvent(1536, meta.endOfTrack)],
    [...note(300, 200, 60), ...note(384, 96, 62), ...note(760, 400, 64)],
  );
  const bar2 = { scope: { bars: { from: 2, to: 2 } } };
  const played = (notes: 'cut' | 'keep' | 'again', asked: object = bar2) =>
    lines(files(song, { ...asked, edges: { notes } })[0]!)[1];

  it('are cut: a bar lasts a bar', () => {
    expect(played('cut')).toEqual([
      '0 903e50',
      '96 803e40',
      '376 904050',
      '384 804040',
      '384 ff2f',
    ]);
  });

  it('are kept whole: the file is longer by what rings', () => {
    expect(played('keep')!.slice(-3)).toEqual(['376 904050', '776 804040', '776 ff2f']);
  });

  it('are struck again where they ring into a file, and end where they did', () => {
    expect(played('again')).toEqual([
      '0 903c50',
      '0 903e50',
      '96 803e40',
      '116 803c40',
      '376 904050',
      '384 804040',
      '384 ff2f',
    ]);
  });

  it('repeated and kept, they ring on until their key is struck again', () => {
    const twice = lines(files(song, { ...bar2, repeat: 2, edges: { notes: 'keep' } })[0]!)[1];
    expect(twice!.filter((e) => e.includes('40'.padStart(2)) && /[89]040/.test(e))).toEqual([
      '376 904050',
      '760 804040',
      '760 904050',
      '1160 804040',
    ]);
  });

  it('what hangs has an end, and what is held or bent goes back', () => {
    const held = songOf([
      controller(10, 64, 127),
      channelEvent(20, 0xe0, 0, 90),
      channelEvent(30, 0x90, 60, 80),
      metaEvent(768, meta.endOfTrack),
    ]);
    expect(lines(files(held, { scope: { bars: { from: 1, to: 1 } } })[0]!)[0]).toEqual([
      '10 b0407f',
      '20 e0005a',
      '30 903c50',
      '384 803c40',
      '384 b04000',
      '384 e00040',
      '384 ff2f',
    ]);
  });
});

describe('bars that follow each other several times', () => {
  it('say parameters again as a whole: data alone would reach the one that was chosen last', () => {
    // NRPN 1/8 and 1/102 at 64, then RPN 0/0 at 2 (MIDI 1.0), all on the first tick; nothing is said later.
    const parameters = [
      [99, 1],
      [98, 8],
      [6, 64],
      [99, 1],
      [98, 102],
      [6, 64],
      [101, 0],
      [100, 0],
      [6, 2],
    ].map(([number, value]) => controller(0, number!, value!));
    const song = songOf([...parameters, ...note(0, 96, 60), metaEvent(384, meta.endOfTrack)]);
    const [track] = lines(files(song, { repeat: 2 })[0]!);
    const said = (tick: number) =>
      track!.filter((e) => e.startsWith(`${tick} b`)).map((e) => e.split(' ')[1]);
    expect(said(384)).toEqual(said(0));
  });

  it('take mono mode back to poly, and omni to off, where they were not so at first (MIDI 1.0)', () => {
    const song = songOf([
      ...note(0, 96, 60),
      controller(100, 126, 1),
      controller(100, 125, 0),
      ...note(200, 96, 62),
      metaEvent(384, meta.endOfTrack),
    ]);
    const [track] = lines(files(song, { repeat: 2 })[0]!);
    expect(track!.filter((e) => e.startsWith('384 b')).sort()).toEqual([
      '384 b07c00',
      '384 b07f00',
    ]);
  });

  it('begin each time as the first did: what was changed is said again, what was said in between is taken back, no more', () => {
    const song = songOf(
      [tempoEvent(0, 500_000), tempoEvent(192, 400_000), metaEvent(384, meta.endOfTrack)],
      [
        text(0, meta.trackName, 'Horn'),
        channelEvent(0, 0xc0, 60),
        controller(0, 7, 90),
        ...note(0, 96, 60),
        controller(192, 7, 50),
        controller(200, 1, 30),
      ],
    );
    const [map, horn] = lines(files(song, { repeat: 2 })[0]!);
    expect(map).toEqual([
      '0 ff51 500000',
      '192 ff51 400000',
      '384 ff51 500000',
      '576 ff51 400000',
      '768 ff2f',
    ]);
    expect(horn).toEqual([
      `0 ff03 ${Buffer.from('Horn').toString('hex')}`,
      '0 c03c',
      '0 b0075a',
      '0 903c50',
      '96 803c40',
      '192 b00732',
      '200 b0011e',
      '384 b00100',
      '384 b0075a',
      '384 903c50',
      '480 803c40',
      '576 b00732',
      '584 b0011e',
      '768 ff2f',
    ]);
  });
});

describe('a part of the tracks', () => {
  const song = songOf(
    [text(0, meta.trackName, 'Map'), tempoEvent(0, 600_000)],
    [channelEvent(0, 0xc0, 40), controller(100, 7, 60), ...note(0, 50, 60), metaEvent(384, 0x2f)],
    [...note(192, 96, 48), text(96, meta.marker, 'Here'), metaEvent(384, 0x2f)],
    [exclusive(5, 0x7e, 0x7f, 9, 1), ...note(0, 10, 70, 80, 3)],
  );

  it('has with it what others say on its channel and to the whole instrument, the map and the markers, and no other note', () => {
    const [file] = files(song, { tracks: ['t3'] });
    expect(lines(file!)).toEqual([
      [
        `0 ff03 ${Buffer.from('Map').toString('hex')}`,
        '0 ff51 600000',
        expect.stringMatching(/^\d+ ff2f$/),
      ],
      [
        '0 c028',
        '5 f0 7e7f0901f7',
        `96 ff06 ${Buffer.from('Here').toString('hex')}`,
        '100 b0073c',
        '192 903050',
        '288 803040',
        '384 ff2f',
      ].sort((a, b) => parseInt(a) - parseInt(b)),
    ]);
    expect(file!.notes.join()).toContain('2 events of track 2 on channel 1 went along');
  });

  it('has the tempo that holds where several tracks say one on the same tick, as in damaged files', () => {
    const said = songOf(
      [tempoEvent(0, 600_000)],
      [tempoEvent(0, 700_000), ...note(0, 96, 60)],
      [tempoEvent(0, 800_000), tempoEvent(0, 600_000), ...note(0, 96, 62, 80, 1)],
    );
    for (const track of ['t2', 't3'])
      expect(timingOf(songOfFile(files(said, { tracks: [track] })[0]!)).tempos.at(-1)!.tempo).toBe(
        600_000,
      );
  });

  it('a file a track: of one start and length; the marker of one is in all', () => {
    const made = files(song, { divide: 'tracks' });
    expect(made.map((f) => f.name)).toEqual([
      'x 01 track 2.mid',
      'x 02 track 3.mid',
      'x 03 track 4.mid',
    ]);
    for (const f of made) {
      expect(lines(f).map((t) => t.at(-1))).toEqual(['384 ff2f', '384 ff2f']);
      expect(timingOf(songOfFile(f)).markers).toHaveLength(1);
    }
  });
});

describe('forms', () => {
  const parts = songOf(
    [text(0, meta.trackName, 'Song'), tempoEvent(0, 600_000)],
    [text(0, meta.trackName, 'Oboe'), channelEvent(0, 0xc0, 68), ...note(0, 96, 70)],
    [text(0, meta.trackName, 'Horn'), channelEvent(0, 0xc1, 60), ...note(48, 96, 58, 70, 1)],
  );

  it('1 to 0, taken in and split, and to 1 again: the same events, for parts that have channels of their own', () => {
    const zero = songOfFile(files(parts, { format: 0 })[0]!);
    expect(zero.tracks).toHaveLength(1);
    const split = take(zero, 'tracks.split-by-channel').song;
    const one = lines(files(split, { format: 1 })[0]!);
    const music = (events: readonly string[]): string[] => events.filter((e) => !/ ff/.test(e));
    expect(one.map(music)).toEqual(lines(files(parts, { format: 1 })[0]!).map(music));
  });

  it('one track for all channels stands behind the map', () => {
    const [map, all, ...rest] = lines(files(parts, { form: { tracks: 'one' } })[0]!);
    expect([map!.length, rest.length]).toEqual([3, 0]);
    expect(all!.filter((e) => !/ ff/.test(e))).toEqual([
      '0 c044',
      '0 904650',
      '0 c13c',
      '48 913a46',
      '96 804640',
      '144 813a40',
    ]);
  });

  it('the map alone has its full length and timecode', () => {
    const timed = take(parts, 'timing.timecode', {
      bar: 1,
      rate: '25',
    }).song;
    const alone = songOfFile(files(timed, { divide: 'map' })[0]!);
    expect(alone.tracks).toHaveLength(1);
    expect(timingOf(alone).endTick).toBe(timingOf(timed).endTick);
    expect(timingOf(alone).timecode).toMatchObject({ frames: 90_000, rate: '25' });
  });

  it('without the bars before the music, the gap in its first bar stays, and what was set up before is said', () => {
    const late = songOf([controller(0, 7, 90), ...note(800, 96, 60), metaEvent(1152, 0x2f)]);
    expect(lines(files(late, { edges: { leadIn: false } })[0]!)[0]).toEqual([
      '0 b0075a',
      '32 903c50',
      '128 803c40',
      '384 ff2f',
    ]);
  });
});
