import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../../tests/support/scale.ts';
import { madeSong } from '../../../tests/support/made-songs.ts';
import { controller, note, songOf } from '../../../tests/support/songs.ts';
import { pickEvents } from '../../smf/event-builder.ts';
import { channelEvent, metaEvent } from '../../smf/events.ts';
import type { Smf, SmfTrack } from '../../smf/smf.ts';
import { workedFormat0, workedFormat1 } from '../../smf/worked-examples.ts';
import { readSmf } from '../../smf/read.ts';
import { withEvents, type Song } from '../../song/song.ts';
import { handoffSettings, wantedOf, type HandoffAsked } from '../settings.ts';
import type { Part } from '../part/piece.ts';
import { pieceOf } from '../part/piece.ts';
import { verifyBytes } from './verify-bytes.ts';
import { verifyLayout } from './verify-layout.ts';
import { verifyPart } from './verify-part.ts';
import { chunksOf, TrackWalk } from './second-reader.ts';

const smfOf = (bytes: Uint8Array): Smf => {
  const reading = readSmf(bytes);
  if (!reading.ok) throw new Error(reading.problem.code);
  return reading.value.smf;
};

describe('the second reader', () => {
  it('reads the worked examples of the specification event by event (SMF 1.0, Appendix; from memory)', () => {
    const walk = new TrackWalk(workedFormat0, chunksOf(workedFormat0)[1]!);
    const read: [number, number, number, number][] = [];
    while (walk.next()) read.push([walk.tick, walk.status, walk.data1, walk.data2]);
    expect(read.slice(2, 8)).toEqual([
      [0, 0xc0, 5, 0],
      [0, 0xc1, 46, 0],
      [0, 0xc2, 70, 0],
      [0, 0x92, 48, 96],
      [0, 0x92, 60, 96],
      [96, 0x91, 67, 64],
    ]);
    expect(read).toHaveLength(14);
  });

  it('proves a file that says what was meant, and no file in which any one byte of a track is another', () => {
    for (const file of [workedFormat0, workedFormat1]) {
      const meant = smfOf(file);
      expect(verifyBytes(file, meant)).toMatchObject({ holds: true, differences: [] });
      for (let at = 8; at < file.length; at++) {
        const wrong = file.slice();
        wrong[at]! ^= 1;
        expect(verifyBytes(wrong, meant).holds, `byte ${at}`).toBe(false);
      }
      for (let cut = 8; cut < file.length; cut++)
        expect(verifyBytes(file.slice(0, cut), meant).holds, `cut at ${cut}`).toBe(false);
    }
  });
});

const judge = (song: Song, part: Part, asked: HandoffAsked, spoil: (s: Song) => Song): string[] => {
  const wanted = wantedOf(handoffSettings.parse(asked));
  return verifyPart(song, part, wanted, spoil(pieceOf(song, part, wanted, () => true).song));
};
const spoilFirst = (song: Song, spoil: (song: Song) => Song['tracks'][number]): Song => ({
  ...song,
  tracks: [spoil(song), ...song.tracks.slice(1)],
});

describe('what leaves, held against the song', () => {
  const song = songOf([
    channelEvent(0, 0xc0, 19),
    controller(0, 7, 80),
    controller(400, 11, 90),
    ...note(390, 40, 60),
    ...note(420, 20, 64, 33),
    metaEvent(430, 5, Uint8Array.of(76, 97)),
    ...note(700, 300, 67),
  ]);
  const part = { span: { from: 384, to: 768 } };

  it('is as the settings say where nobody spoils it', () => {
    expect(judge(song, part, {}, (s) => s)).toEqual([]);
  });

  it('is found out where any one event lacks, but for ends of tracks', () => {
    const wanted = wantedOf(handoffSettings.parse({}));
    const { events } = pieceOf(song, part, wanted, () => true).song.tracks[0]!;
    for (let gone = 0; gone < events.count - 1; gone++) {
      const rows = [...Array(events.count).keys()].filter((i) => i !== gone);
      const found = judge(song, part, {}, (s) =>
        spoilFirst(s, ({ tracks: [t] }) => withEvents(t!, pickEvents(t!.events, rows))),
      );
      expect(found, `row ${gone}`).not.toEqual([]);
    }
  });

  it('is found out where any one event is another or elsewhere', () => {
    const wanted = wantedOf(handoffSettings.parse({}));
    const { events } = pieceOf(song, part, wanted, () => true).song.tracks[0]!;
    for (let row = 0; row < events.count - 1; row++)
      for (const column of ['data1', 'data2', 'atTick'] as const) {
        // A program has one data byte, a syllable's text is in its payload.
        if (column === 'data2' && (events.status[row]! >> 4 === 0xc || events.status[row]! >= 0xf0))
          continue;
        if (column === 'data2' && events.status[row]! >> 4 === 8) continue;
        const changed = events[column].slice();
        changed[row]! += 1;
        const found = judge(song, part, {}, (s) =>
          spoilFirst(s, ({ tracks: [t] }) => withEvents(t!, { ...events, [column]: changed })),
        );
        // What is stated on the first tick may be said a tick later, as long as it is before the first note.
        if (column === 'atTick' && events.atTick[row] === 0) continue;
        expect(found, `${column} of row ${row}`).not.toEqual([]);
      }
  });

  it('laid out otherwise it still holds the same events: one that is lost, doubled or changed is found out', () => {
    fc.assert(
      fc.property(madeSong, fc.nat(), (made, pick) => {
        const wanted = wantedOf(handoffSettings.parse({}));
        const differences = (tracks: readonly SmfTrack[]): string[] =>
          verifyLayout({
            tracks: made.tracks,
            laid: { tracks } as unknown as Smf,
            wanted,
            keepsReceivedOrder: false,
          });
        expect(differences(made.tracks)).toEqual([]);
        const track = made.tracks[1]!;
        const rows = [...Array(track.events.count).keys()];
        const playing = rows.filter((i) => track.events.status[i]! < 0xf0);
        if (playing.length === 0) return;
        const gone = playing[pick % playing.length]!;
        const without = pickEvents(
          track.events,
          rows.filter((i) => i !== gone),
        );
        const spoilt = [made.tracks[0]!, { events: without }, ...made.tracks.slice(2)];
        expect(differences(spoilt)).toHaveLength(1);
      }),
      { seed: 27, numRuns: scaleRuns(150) },
    );
  });
});
