import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { scaleRuns } from '../../tests/support/scale.ts';
import { exampleSources, exampleSteps, namedSteps } from '../../tests/support/examples.ts';
import { madeSong } from '../../tests/support/made-songs.ts';
import { controller, note, songOf, take } from '../../tests/support/songs.ts';
import type { Song } from '../song/song.ts';
import { runStep } from './run.ts';

/**
 * Channel messages of a song by a reading of its own: those of parked lanes, and all others. Controllers
 * stand by their number.
 */
function messages({ tracks }: Song): { parked: string[]; played: string[] } {
  const both = { parked: [] as string[], played: [] as string[] };
  for (const {
    events: { status, data1, data2, count },
    parked,
  } of tracks) {
    for (let i = 0; i < count; i++) {
      const kind = status[i]! >> 4;
      if (kind < 0xb || kind === 0xf) continue;
      const what =
        kind === 0xb
          ? data1[i]!
          : ({ 0xc: 'program', 0xd: 'pressure', 0xe: 'bend' } as const)[kind as 0xc | 0xd | 0xe];
      both[parked?.includes(`${status[i]! & 15}:${what}`) ? 'parked' : 'played'].push(
        `${what} ${data1[i]} ${data2[i]}`,
      );
    }
  }
  both.parked.sort();
  both.played.sort();
  return both;
}

/**
 * What parks, what takes or brings whole tracks or events by hand, what gives both halves of a part its
 * lanes or a part another sound, what takes bars out or repeats them or says again what holds in them, and
 * what runs other steps.
 */
const itsOwn =
  /^(bars\..*|controllers\.(un)?park|tracks\.(bring-in|instrument|join|remove|split-by-(pitch|voice|drum))|events\.(edit|insert|delete)|recipe\.run)$/;

describe('what is parked stays parked, and what plays stays playing', () => {
  it.each(namedSteps(exampleSteps.filter((r) => !itsOwn.test(r.operation))))('%s', (_, request) => {
    fc.assert(
      fc.property(madeSong, (song) => {
        const done = runStep(song, request, exampleSources);
        if (!done.ok) return;
        const [before, after] = [messages(song), messages(done.value.song)];
        expect(after.parked).toEqual(before.parked);
        if (request.operation.startsWith('tracks.')) expect(after.played).toEqual(before.played);
      }),
      { seed: 21, numRuns: scaleRuns(60) },
    );
  });

  const parks = (song: Song, track: number, ...parked: string[]): Song => ({
    ...song,
    tracks: song.tracks.map((t, n) => (n === track ? { ...t, parked } : t)),
  });
  const part = [controller(0, 7, 20), ...note(0, 96, 60)];

  it('moved to another channel, a parked lane is parked there', () => {
    const moved = take(parks(songOf(part), 0, '0:7'), 'tracks.channel', { channel: 5 }).song
      .tracks[0]!;
    expect(moved.parked).toEqual(['4:7']);
    expect(moved.events.status[0]).toBe(0xb4);
  });

  it('one track cannot park a lane and play it: what would come to that is left, and says why', () => {
    const both = take(
      parks(songOf([...part, controller(0, 7, 90, 1)]), 0, '0:7'),
      'tracks.channel',
      { channel: 5 },
    );
    expect(both.report.changes).toEqual([]);
    expect(both.report.skipped[0]!.why).toMatch(/unpark it, or split the track by channel first/);
    const merged = take(parks(songOf(part, part), 0, '0:7'), 'tracks.merge');
    expect(merged.report.changes).toEqual([]);
    expect(merged.report.skipped[0]!.why).toMatch(/parked in another of the tracks/);
    expect(
      take(parks(parks(songOf(part, part), 0, '0:7'), 1, '0:7'), 'tracks.merge').song.tracks.map(
        (t) => t.parked,
      ),
    ).toEqual([['0:7']]);
  });

  it('no curve is drawn over a parked lane; values written there by hand say that they are parked', () => {
    const song = parks(songOf(part), 0, '0:7');
    expect(take(song, 'controllers.draw', { lane: 7 }).report.skipped[0]!.why).toBe(
      'Its volume is parked: unpark it first.',
    );
    expect(
      take(song, 'controllers.write', {
        track: 't1',
        channel: 1,
        lane: 7,
        from: 0,
        to: 9,
        points: [[5, 50]],
      }).report.changes[0]!.detail,
    ).toMatch(/parked, so this is neither played nor sent/);
  });
});
