import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { plainEvents, readIndependently } from '../../tests/support/independent.ts';
import { smfFile } from '../../tests/support/generate.ts';
import { runStep } from '../operations/run.ts';
import { readSmf } from '../smf/read.ts';
import { bytesOf, workedFormat0, workedFormat1 } from '../smf/worked-examples.ts';
import { writeSmf } from '../smf/write.ts';
import { songsFromSmf } from '../song/from-smf.ts';
import type { Song } from '../song/song.ts';
import { makeHandoff, type Handoff } from './handoff.ts';
import { makeSlip, slipText, stateText } from './slip.ts';

function songOf(file: Uint8Array): Song {
  const reading = readSmf(file);
  if (!reading.ok) throw new Error(reading.problem.code);
  return songsFromSmf(reading.value.smf, 'song.mid')[0]!;
}

function step(
  song: Song,
  operation: string,
  settings: object = {},
  tracks: string[] | 'all' = 'all',
): Song {
  const result = runStep(song, { operation, settings, scope: { tracks } });
  if (!result.ok) throw new Error(result.problem.code);
  return result.value.song;
}

function handOff(
  song: Song,
  received: Song,
  format: 'as-received' | 0 | 1 = 'as-received',
): Handoff {
  const made = makeHandoff(
    song,
    { received, asRead: received },
    { format, runningStatus: true, chunks: true },
  );
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
}

describe('handing off', () => {
  it('gives back the very file where nothing was touched', () => {
    for (const file of [workedFormat0, workedFormat1]) {
      const song = songOf(file);
      const { bytes, proof, account } = handOff(song, song);
      expect(bytes).toEqual(file);
      expect(proof.holds).toBe(true);
      expect(account.tracks.every((t) => t.state === 'same bytes')).toBe(true);
    }
  });

  it('gives back the very format 0 file when its channels were split and nothing else', () => {
    const received = songOf(workedFormat0);
    expect(handOff(step(received, 'tracks.split-by-channel'), received).bytes).toEqual(
      workedFormat0,
    );
  });

  it('two equal events of one tick with another channel’s between them keep their places, worked by hand', () => {
    // B0 07 64, B1 07 32, B0 07 64 again, a note on each channel, end of track.
    const file = bytesOf(
      '4D546864 00000006 0000 0001 0060 4D54726B 00000020 00B00764 00B10732 00B00764 00903C40 00913C40 60803C00 00813C00 00FF2F00',
    );
    const received = songOf(file);
    const song = step(received, 'tracks.split-by-channel');
    const { bytes } = handOff(song, received);
    expect(readIndependently(bytes).tracks).toEqual(readIndependently(file).tracks);
  });

  it('keeps the order of a format 0 file on every tick when one of its split tracks is removed', () => {
    fc.assert(
      fc.property(
        smfFile().filter((s) => s.format === 0),
        (smf) => {
          const received = songOf(writeSmf(smf));
          const split = step(received, 'tracks.split-by-channel');
          if (split.tracks.length < 3) return;
          const gone = split.tracks.at(-1)!;
          const written = readSmf(
            handOff(step(split, 'tracks.remove', {}, [gone.id]), received).bytes,
          );
          if (!written.ok) throw new Error('unreadable');
          const removed = plainEvents(gone.events).filter((e) => !e.endsWith('ff2f'));
          const expected = plainEvents(received.tracks[0]!.events).filter(
            (e) => !removed.includes(e),
          );
          expect(
            plainEvents(written.value.smf.tracks[0]!.events).filter((e) => !removed.includes(e)),
          ).toEqual(expected);
        },
      ),
      { seed: 5, numRuns: scaleRuns(300) },
    );
  });

  it('leaves untouched tracks as their very bytes and says what changed', () => {
    const received = songOf(workedFormat1);
    const song = step(
      step(received, 'tracks.rename', { name: 'Horn' }, ['t2']),
      'tracks.remove',
      {},
      ['t3'],
    );
    const { bytes, account } = handOff(song, received);
    const before = readIndependently(workedFormat1);
    expect(readIndependently(bytes).tracks).toEqual([
      before.tracks[0],
      ['0 ff03 486f726e', ...before.tracks[1]!],
      before.tracks[3],
    ]);
    expect(account.tracks.map((t) => t.state)).toEqual(['same bytes', 'changed', 'same bytes']);
    expect(account.tracks[1]!.added).toEqual({ name: 1 });
    expect(account.removed).toEqual([{ name: 'track 3', events: 4 }]);
  });

  it('writes format 0 as the independent reader expects: all events, by tick, names as instrument names of their channel', () => {
    const received = songOf(workedFormat1);
    const { bytes, notes } = handOff(
      step(received, 'tracks.rename', { name: 'Horn' }, ['t2']),
      received,
      0,
    );
    const file = readIndependently(bytes);
    expect(file.format).toBe(0);
    expect(file.tracks[0]!.slice(0, 5)).toEqual([
      '0 ff58 4 4 24 8',
      '0 ff51 500000',
      '0 ff20 0',
      '0 ff04 486f726e',
      '0 c005',
    ]);
    expect(notes[0]).toContain('1 track name was written as instrument name');
    const all = readIndependently(workedFormat1)
      .tracks.flat()
      .filter((e) => !e.includes('ff2f'));
    expect(file.tracks[0]!.filter((e) => !/ff(2f|20|04)/.test(e)).sort()).toEqual(all.sort());
  });

  it('proves every handoff of every generated song, in both formats', () => {
    fc.assert(
      fc.property(
        smfFile(),
        fc.constantFrom('as-received' as const, 0 as const, 1 as const),
        (smf, format) => {
          const song = songOf(writeSmf(smf));
          expect(handOff(song, song, format).proof).toMatchObject({ holds: true, differences: [] });
        },
      ),
      { seed: 9, numRuns: scaleRuns(400) },
    );
  });

  it('prints a slip that names what was written, what was left out and the proof', () => {
    const received = songOf(workedFormat1);
    const song = step(received, 'tracks.remove', {}, ['t3']);
    const text = slipText(
      makeSlip(song, handOff(song, received), {
        name: 'song.mid',
        sha256: 'ab'.repeat(32),
        sameAsOriginal: false,
      }),
    );
    expect(text).toContain('track 3, 4 events, removed');
    expect(text).toContain('The file was read back: 3 tracks, 13 events');
    expect(text).toContain('track 2 (ch 1): 1 note, 4 events; the very bytes received');
  });
});

describe('issue 10: the slip’s changes in words', () => {
  const account = (added: Record<string, number>, removed: Record<string, number>) =>
    stateText({
      id: 't1',
      name: 'Flute',
      channels: [0],
      notes: 1,
      events: 1,
      state: 'changed',
      added,
      removed,
    });

  it('says what was changed, taken out and put in, each by its name and number', () => {
    expect(account({ name: 1 }, {})).toBe('changed: 1 name put in');
    expect(account({ note: 38 }, { note: 40, controller: 8493 })).toBe(
      'changed: 38 notes changed, 2 notes taken out, 8,493 controllers taken out',
    );
    expect(account({}, { 'system exclusive': 2, pressure: 1 })).toBe(
      'changed: 2 system exclusive messages taken out, 1 pressure value taken out',
    );
    expect(account({}, {})).toBe('changed: the order on a tick');
  });
});

describe('a handoff of one file', () => {
  it('is refused where the settings make two', () => {
    const song = songOf(workedFormat1);
    const made = makeHandoff(
      { ...song, tracks: song.tracks.slice(1, 3) },
      { received: song, asRead: song },
      { divide: 'tracks' },
    );
    expect(made).toMatchObject({ ok: false, problem: { code: 'handoff-nothing' } });
  });
});
