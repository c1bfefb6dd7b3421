import { describe, expect, it } from 'vitest';
import { costRatio } from '../../tests/support/cost.ts';
import { plainEvents } from '../../tests/support/independent.ts';
import { demoFiles } from '#demo/files.ts';
import { concatBytes, findId, MTrk } from './chunks.ts';
import { readSmf, readSmfs } from './read.ts';
import type { SmfReading } from './smf.ts';
import { bytesOf, workedFormat0, workedFormat1 } from './worked-examples.ts';
import { line } from '../../tests/support/plain-line.ts';
import { isDeep } from '../../tests/support/scale.ts';
import { notesOf } from '../song/notes.ts';
import { wrapRiff } from './riff.ts';
import { writeSmf } from './write.ts';

function all(bytes: Uint8Array): readonly SmfReading[] {
  const readings = readSmfs(bytes);
  if (!readings.ok) throw new Error(readings.problem.code);
  return readings.value;
}
const lines = (reading: SmfReading): string[][] =>
  reading.smf.tracks.map((t) => plainEvents(t.events));
const codes = (reading: SmfReading): string[] => reading.problems.map((p) => p.code);
const ascii = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));
const changed = (file: Uint8Array, at: number, ...bytes: number[]): Uint8Array => {
  const copy = file.slice();
  copy.set(bytes, at);
  return copy;
};
const whole = all(workedFormat1)[0]!;

describe('issue 9.3: damaged heads', () => {
  it.each([
    ['a turned bit in the id', changed(workedFormat1, 1, 0x55), ['header-damaged']],
    ['an id of zeros', changed(workedFormat1, 0, 0, 0, 0, 0), ['header-damaged']],
    ['a length of two', changed(workedFormat1, 4, 0, 0, 0, 2), ['chunk-length']],
    ['a length of thousands', changed(workedFormat1, 4, 0, 0, 0x7f, 0), ['chunk-length']],
    [
      'id and length of zeros',
      changed(workedFormat1, 0, 0, 0, 0, 0, 0, 0, 0, 0),
      ['header-damaged'],
    ],
    [
      'a byte of the length missing',
      concatBytes([workedFormat1.subarray(0, 5), workedFormat1.subarray(6)]),
      ['header-short'],
    ],
  ])('%s: the header still states its division, and every track is read', (_, file, expected) => {
    const [reading] = all(file);
    expect(reading!.smf.division).toEqual({ kind: 'ppq', ticksPerQuarter: 96 });
    expect(reading!.smf.format).toBe(1);
    expect(lines(reading!)).toEqual(lines(whole));
    expect(codes(reading!)).toEqual(expected);
  });

  it('a track whose id is a bit or a case off is a track, where its content parses to its end', () => {
    const at = findId(workedFormat1, MTrk, 60);
    for (const id of ['mtrk', 'MTRK', 'LTrk', 'MTrj']) {
      const [reading] = all(changed(workedFormat1, at, ...ascii(id)));
      expect(lines(reading!)).toEqual(lines(whole));
      expect(codes(reading!)).toEqual(['track-id']);
    }
    // What does not parse to its end is another chunk, kept.
    const [other] = all(changed(changed(workedFormat1, at, ...ascii('mtrk')), at + 9, 0x10));
    expect(other!.smf.alienChunks.map((c) => c.id)).toEqual(['mtrk']);
  });

  it('a track whose head lost a byte is read', () => {
    const at = findId(workedFormat1, MTrk, 60);
    const [reading] = all(
      concatBytes([workedFormat1.subarray(0, at + 1), workedFormat1.subarray(at + 2)]),
    );
    expect(lines(reading!)).toEqual(lines(whole));
    expect(codes(reading!)).toContain('track-head');
  });

  it('a track whose head lost a byte begins behind its length, though that reads as an event', () => {
    // 56 notes of 8 bytes and the end: 0x1C4 bytes, so that 01 C4 00 would be a program after one tick.
    const notes = Array.from({ length: 56 }, () => '00 903C40 30 803C40').join(' ');
    const sound = bytesOf(
      `4D546864 00000006 0001 0002 0060 4D54726B 00000004 00FF2F00 4D54726B 000001C4 ${notes} 00FF2F00`,
    );
    const at = findId(sound, MTrk, 24);
    const [reading] = all(concatBytes([sound.subarray(0, at + 3), sound.subarray(at + 4)]));
    expect(lines(reading!)).toEqual(lines(all(sound)[0]!));
  });

  it('a track whose head was written over, with the end of the one before, begins anew where its events do', () => {
    // Three lines at 96 PPQ; zeros or noise stand in place of the end of the first and the head of
    // the second, up to its fifth event.
    const tracks = [line(40), line(60), line(50)].map((events) => ({ events }));
    const sound = writeSmf(
      {
        format: 1,
        division: { kind: 'ppq', ticksPerQuarter: 96 },
        headerExtra: new Uint8Array(0),
        alienChunks: [],
        tracks,
      },
      { runningStatus: false },
    );
    const head = findId(sound, MTrk, 30);
    const [from, to] = [head - 6, head + 8 + 4 * 4];
    const [before, behind] = [sound.subarray(0, from), sound.subarray(to)];
    const noise = Uint8Array.from({ length: to - from }, (_, n) => (n * 73 + 19) & 0xff);
    for (const over of [new Uint8Array(to - from), noise]) {
      const [reading] = all(concatBytes([before, over, behind]));
      const [one, two, three] = lines(reading!);
      const [first, second, third] = lines(all(sound)[0]!);
      expect(reading!.smf.tracks).toHaveLength(3);
      expect(one!.slice(0, 78)).toEqual(first!.slice(0, 78));
      // What is before its fifth event is lost, and with it the time of those.
      const own = (all: readonly string[]): string[] => all.map((e) => e.replace(/^\d+ /, ''));
      expect(own(two!.slice(-110))).toEqual(own(second!.slice(-110)));
      expect(three).toEqual(third);
    }
  });

  it('a RIFF wrapper whose data says it is empty, or shorter than it is, holds MIDI all the same', () => {
    const wrapped = wrapRiff(workedFormat1, {
      before: new Uint8Array(0),
      after: new Uint8Array(0),
    });
    for (const size of [0, 40]) {
      const [reading] = all(changed(wrapped, 16, size, 0, 0, 0));
      expect(lines(reading!)).toEqual(lines(whole));
      expect(codes(reading!)).toEqual(['wrapper-size']);
    }
  });
});

describe('issue 9.3: files in files', () => {
  it('two files glued together are two, each with its own resolution', () => {
    const readings = all(concatBytes([workedFormat1, changed(workedFormat0, 12, 1, 0xe0)]));
    expect(readings.map((r) => [r.smf.format, r.smf.tracks.length, r.smf.division])).toEqual([
      [1, 4, { kind: 'ppq', ticksPerQuarter: 96 }],
      [0, 1, { kind: 'ppq', ticksPerQuarter: 480 }],
    ]);
    expect(codes(readings[0]!)).toEqual(['several-files']);
  });

  // An archive of stored members (512-byte heads, "ustar" at 257: POSIX 1003.1, from memory), an audio
  // container with a chunk of MIDI.
  const member = (name: string, file: Uint8Array): Uint8Array => {
    const head = new Uint8Array(512);
    head.set(ascii(name));
    head.set(ascii('ustar'), 257);
    return concatBytes([head, file, new Uint8Array((512 - (file.length % 512)) % 512)]);
  };

  it('an archive that holds MIDI files yields each, with where it lay', () => {
    const readings = all(
      concatBytes([
        member('a.mid', workedFormat1),
        member('b.mid', workedFormat0),
        new Uint8Array(1024),
      ]),
    );
    expect(readings.map(lines)).toEqual([lines(whole), lines(all(workedFormat0)[0]!)]);
    expect(readings[0]!.problems[1]).toMatchObject({
      code: 'held-in',
      where: { byte: 512 },
      looksLike: 'an archive',
    });
  });

  it('an audio container with a chunk of MIDI yields it, and nothing of the sound', () => {
    const riff = concatBytes([
      ascii('RIFF'),
      bytesOf('00010000'),
      ascii('WAVE'),
      ascii('midi'),
      Uint8Array.of(workedFormat1.length, 0, 0, 0),
      workedFormat1,
      ascii('data'),
      bytesOf('40000000'),
      new Uint8Array(64).fill(0x55),
    ]);
    const [reading] = all(riff);
    expect(lines(reading!)).toEqual(lines(whole));
    expect(codes(reading!)).toEqual(['held-in']);
  });

  it('what only looks like MIDI is refused by name', () => {
    const says = (bytes: Uint8Array): string => {
      const reading = readSmf(bytes);
      return reading.ok
        ? 'read'
        : reading.problem.code === 'not-midi'
          ? reading.problem.looksLike
          : reading.problem.code;
    };
    expect(says(ascii('A MIDI file begins with MThd, then come MTrk chunks.'))).toBe('a text');
    expect(
      says(
        concatBytes([
          ascii('RIFF'),
          bytesOf('40000000'),
          ascii('WAVE'),
          ascii('data'),
          ascii('MThdMTrk'),
          new Uint8Array(40).fill(0xaa),
        ]),
      ),
    ).toBe('an audio recording');
    expect(
      says(
        concatBytes([
          bytesOf('7F454C46'),
          new Uint8Array(200),
          ascii('MThd'),
          bytesOf('00000006000100010060'),
          ascii('MTrk'),
          new Uint8Array(40).fill(0xff),
        ]),
      ),
    ).toBe('data of another kind');
  });
});

describe('issue 9.3: damage inside a track', () => {
  it('a time longer than the rest of the song is distrusted: no dropped byte makes it half as long again, and hardly any moves its end by four bars', () => {
    const file = demoFiles[0]!.bytes();
    const lengthOf = (bytes: Uint8Array): number =>
      Math.max(...all(bytes)[0]!.smf.tracks.map((t) => t.events.atTick[t.events.count - 1]!));
    const end = lengthOf(file);
    let [drops, moved] = [0, 0];
    for (let at = 2000; at < file.length; at += isDeep ? 397 : 1985) {
      const now = lengthOf(concatBytes([file.subarray(0, at), file.subarray(at + 1)]));
      expect(now, `byte ${at}`).toBeLessThan(end * 1.5);
      drops++;
      if (Math.abs(now - end) > 480 * 4 * 4) moved++;
    }
    expect(moved / drops).toBeLessThan(0.07);
  });

  it('a rest before the music stays, however long, where only the end of the track is missing or a damage comes later', () => {
    // 8,388,608 ticks of rest, then eighth notes at 96 PPQ.
    const notes = Array.from(
      { length: 20 },
      (_, n) => `${n === 0 ? '84808000' : '00'} 903C40 30 803C40`,
    ).join(' ');
    const sound = bytesOf(
      `4D546864 00000006 0000 0001 0060 4D54726B ${(20 * 8 + 3).toString(16).padStart(8, '0')} ${notes}`,
    );
    const [torn] = all(sound);
    expect(codes(torn!)).toEqual(['end-of-track-missing']);
    expect(torn!.smf.tracks[0]!.events.atTick[0]).toBe(8_388_608);
    // By the fifteenth note, and by the second.
    for (const at of [22 + 3 + 14 * 8, 22 + 3 + 8])
      for (const broken of [
        concatBytes([sound.subarray(0, at), sound.subarray(at + 1)]),
        changed(sound, at + 1, 0xf9),
      ]) {
        expect(all(broken)[0]!.smf.tracks[0]!.events.atTick[0]).toBe(8_388_608);
      }
  });

  it('a rest in a track that is cut off stays: what is missing stood behind it', () => {
    const notes = Array.from(
      { length: 20 },
      (_, n) => `${n === 0 ? '00' : n === 10 ? 'A000' : '30'} 903C40 30 803C40`,
    ).join(' ');
    const sound = bytesOf(
      `4D546864 00000006 0000 0001 0060 4D54726B ${(20 * 8 + 5).toString(16).padStart(8, '0')} ${notes} 00FF2F00`,
    );
    const [reading] = all(sound.subarray(0, sound.length - 20));
    expect(lines(reading!)[0]!.slice(0, -1)).toEqual(lines(all(sound)[0]!)[0]!.slice(0, -5));
  });

  it('what follows a damage in the only track is put where it stood: on its beats', () => {
    // Quarter notes at 96 PPQ; the status of the ninth note-on is lost, and with it the time before its
    // note-off is read as another.
    const notes = Array.from(
      { length: 24 },
      (_, n) => `${n === 0 ? '00' : '30'} 903C40 30 803C40`,
    ).join(' ');
    const sound = bytesOf(
      `4D546864 00000006 0000 0001 0060 4D54726B ${(24 * 8 + 4).toString(16).padStart(8, '0')} ${notes} 00FF2F00`,
    );
    const at = 22 + 8 * 8 + 1;
    const [reading] = all(concatBytes([sound.subarray(0, at), sound.subarray(at + 1)]));
    const ons = (r: SmfReading): string[] => lines(r)[0]!.filter((e) => e.endsWith(' 903c40'));
    expect(ons(reading!).slice(9)).toEqual(ons(all(sound)[0]!).slice(10));
  });

  it('a note whose end was lost without another trace ends before its key is struck again: every later note keeps its length', () => {
    // Two lines of eighth notes at 96 PPQ, of four keys each; of the second the 29th event, an end, is lost
    // with its time, eight ticks behind which the next note begins.
    const song = {
      format: 1 as const,
      division: { kind: 'ppq' as const, ticksPerQuarter: 96 },
      headerExtra: new Uint8Array(0),
      alienChunks: [],
      tracks: [{ events: line(80) }, { events: line(80) }],
    };
    const sound = writeSmf(song, { runningStatus: false });
    const at = findId(sound, MTrk, 30) + 8 + 29 * 4;
    const [reading] = all(concatBytes([sound.subarray(0, at), sound.subarray(at + 4)]));
    const lengths = (r: SmfReading): string[] => {
      const { on, off, count } = notesOf(r.smf.tracks[1]!.events);
      const { atTick } = r.smf.tracks[1]!.events;
      return Array.from({ length: count }, (_, n) => `${atTick[on[n]!]} ${atTick[off[n]!]}`);
    };
    // All but the note that was struck as its fifteenth are what they were.
    const was = lengths(all(sound)[0]!);
    const is = lengths(reading!);
    expect(is).toHaveLength(80);
    expect(is.filter((note) => !was.includes(note))).toHaveLength(1);
  });
});

describe('issue 9.3: bytes that look like a chunk', () => {
  const [head, ...tracks] = ['4D546864 00000006 0001 0003 0060', 'C0', 'C1', 'C2'];
  const track = (on: string, text = '', stated = 15): string =>
    `4D54726B ${stated.toString(16).padStart(8, '0')} 00 ${on}05 20 903C40 30 803C40 ${text} 00FF2F00`;

  it('where a track goes on are its own: the tracks behind it are not swallowed', () => {
    // The first track states 15 bytes and has 35: behind those stand four letters and a length that fits the file.
    const named = '05 FF7F 10 41424344 00000030 4142434445464748';
    const file = bytesOf(
      [head, track(tracks[0]!, named), track(tracks[1]!), track(tracks[2]!)].join(''),
    );
    const [reading] = all(file);
    expect(reading!.smf.tracks).toHaveLength(3);
    expect(reading!.smf.alienChunks).toEqual([]);
  });

  it('and are one stay one, whatever stands in it', () => {
    const inside = bytesOf('4D54726B 00000004 00FF2F00 41424344');
    const file = concatBytes([
      bytesOf([head, track(tracks[0]!), track(tracks[1]!)].join('')),
      ascii('XtrA'),
      Uint8Array.of(0, 0, 0, inside.length),
      inside,
      bytesOf(track(tracks[2]!)),
    ]);
    const [reading] = all(file);
    expect(reading!.smf.alienChunks.map((c) => [c.id, [...c.body]])).toEqual([
      ['XtrA', [...inside]],
    ]);
    expect(codes(reading!)).toEqual([]);
  });
});

describe('issue 9.3: crafted files', () => {
  const big = (
    size: number,
    unit: string,
    head = '4D546864 00000006 0001 0001 0060 4D54726B 02600000',
  ): Uint8Array => {
    const [start, again] = [bytesOf(head), bytesOf(unit)];
    const bytes = new Uint8Array(size);
    bytes.set(start);
    for (let at = start.length; at + again.length <= bytes.length; at += again.length)
      bytes.set(again, at);
    return bytes;
  };
  const noTrack = '4D546864 00000006 0001 0001 0060';

  const units = [
    ['lengths that pass the end', '00FF01FF7F', undefined],
    ['ends of tracks', '00FF2F00', undefined],
    ['data above 127', '0090C8C8', undefined],
    ['tracks that claim everything', '4D54726B FFFFFFFF', noTrack],
    ['chunks of other kinds', '41424344 00000000', noTrack],
    [
      'tracks with chunks of other kinds in them',
      '4D54726B 00000004 00FF2F00 41424344 00FF0000',
      noTrack,
    ],
    ['headers', '4D546864 00000006 0001 0001 0060', noTrack],
    ['whole files', '4D546864 00000006 0001 0001 0060 4D54726B 00000004 00FF2F00', noTrack],
    ['nothing but M', '4D', noTrack],
  ] as const;
  /** Dear in themselves, up to the limit of such work: in the deep run. */
  const dear = [
    ['packets without end between notes', '00F0FFFFFF7F 00903C40 00903C00 00903C40', undefined],
  ] as const;

  it.each(isDeep ? [...units, ...dear] : units)(
    '2 MB of %s cost eight times what 250 kB do, not sixty-four times',
    (_, unit, head) => {
      const [small, large] = [big(250_000, unit, head), big(2_000_000, unit, head)];
      const ratio = costRatio(
        () => readSmfs(small),
        () => readSmfs(large),
        24,
      );
      expect(ratio).toBeLessThan(24);
    },
  );
});
